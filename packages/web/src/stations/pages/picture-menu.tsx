import { Button, Menu } from '@mantine/core'
import { memo } from 'react'
import type { PageId } from '@moth-lamp/core/base'
import { Items } from '../../controls/pop.tsx'
import { saveGlass, savePages, saveSheet } from '../../glass/save-pictures.ts'
import { useSession } from '../../session/context.tsx'

/** Pages as pictures, for whoever is to look at them. */
export const PictureMenu = memo(function PictureMenu({ page }: { page: PageId }) {
  const session = useSession()
  const doing = (what: Promise<void>) =>
    void what.catch((error: unknown) => session.say(error instanceof Error ? error.message : 'Export failed.', 'bad'))
  return (
    <Menu position="right-end" withinPortal>
      <Menu.Target>
        <Button size="compact-xs" title="Export pages as images">
          Export
        </Button>
      </Menu.Target>
      <Items>
        <Menu.Item onClick={() => doing(saveGlass(session, page))}>This page</Menu.Item>
        <Menu.Item onClick={() => doing(savePages(session))}>All pages (ZIP)</Menu.Item>
        <Menu.Item onClick={() => doing(saveSheet(session))}>Contact sheet</Menu.Item>
      </Items>
    </Menu>
  )
})
