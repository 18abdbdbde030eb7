import { Button } from '@mantine/core'
import type { ReactNode } from 'react'
import { useNavigate } from 'react-router'
import { useSession } from '../session/context.tsx'
import station from './station.module.css'

interface Props {
  children: ReactNode
  /** The button's text, and the path of the station it leads to; a function is done here. */
  label: string
  to: string | (() => void)
}

/** A station or a card that is empty: what is missing, and a button for it. */
export function NothingYet({ children, label, to }: Props) {
  const session = useSession()
  const navigate = useNavigate()
  return (
    <div className={station.nothing}>
      <p className="muted">{children}</p>
      <Button onClick={() => (typeof to === 'string' ? void navigate(`/project/${session.id}/${to}`) : to())}>{label}</Button>
    </div>
  )
}
