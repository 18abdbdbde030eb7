import '@fontsource/atkinson-hyperlegible-next/latin-400.css'
import '@fontsource/atkinson-hyperlegible-next/latin-700.css'
import '@fontsource/atkinson-hyperlegible-mono/latin-400.css'
import '@mantine/core/styles.css'
import '@mantine/notifications/styles.css'
import '@mantine/spotlight/styles.css'
import './style.css'
import './words.css'
import { MantineProvider } from '@mantine/core'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { lazy, StrictMode, Suspense } from 'react'
import { createRoot } from 'react-dom/client'
import { createBrowserRouter, Navigate, useParams } from 'react-router'
import { RouterProvider } from 'react-router/dom'
import { keepStrayFilesOut } from './controls/files.ts'
import { theme } from './controls/theme.ts'
import { Broken } from './shell/broken.tsx'
import { Shelf } from './stations/shelf/shelf.tsx'

const queries = new QueryClient({ defaultOptions: { queries: { retry: 2, refetchOnWindowFocus: true } } })

/** The shelf comes alone: what a project needs is many times as large. */
const OpenProject = lazy(async () => ({ default: (await import('./app/open-project.tsx')).OpenProject }))

/** Another project is another session: everything below is made anew. */
function Opened() {
  const { id = '' } = useParams()
  return (
    <Suspense fallback={null}>
      <OpenProject key={id} id={id} />
    </Suspense>
  )
}

const router = createBrowserRouter([
  { path: '/', element: <Shelf />, errorElement: <Broken /> },
  { path: '/project/:id', element: <Navigate to="pages" replace />, errorElement: <Broken /> },
  { path: '/project/:id/:station', element: <Opened />, errorElement: <Broken /> },
  { path: '*', element: <Navigate to="/" replace /> },
])

keepStrayFilesOut()
createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <MantineProvider theme={theme} forceColorScheme="light">
      <QueryClientProvider client={queries}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </MantineProvider>
  </StrictMode>,
)
