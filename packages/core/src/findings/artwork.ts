import { pictureBytes, planOf, usersOf, type PictureRecord } from '../project/index.ts'
import type { Check, Finding } from './finding.ts'

const at = (
  picture: PictureRecord,
  code: string,
  severity: Finding['severity'],
  facts: Finding['facts'],
  fix: Finding['fix'] = null,
): Finding => ({ code, severity, station: 'Artwork', at: picture.id, facts: { name: picture.name, ...facts }, fix })

const setting = (picture: PictureRecord, label: string, values: Partial<PictureRecord>): Finding['fix'] => ({
  label,
  edit: 'set picture',
  args: { id: picture.id, values },
})

/** Pictures need more room than the module has. */
export const artworkFull: Check = ({ project }) => {
  const used = Object.values(project.pictures).reduce((sum, picture) => sum + pictureBytes(picture), 0)
  const room = project.panel.artworkKiB * 1024
  const facts = { used: Math.ceil(used / 1024), room: project.panel.artworkKiB, over: Math.ceil((used - room) / 1024) }
  return used > room ? [{ code: 'artwork-full', severity: 'error', station: 'Artwork', at: '', facts, fix: null }] : []
}

/** Pictures that nothing shows, that are made larger than they are, or that are drawn out of shape. */
export const pictureFindings: Check = ({ project }) =>
  project.pictureOrder.flatMap((id) => {
    const picture = project.pictures[id]!
    const found: Finding[] = []
    const plan = planOf(picture)
    const off = Math.round(plan.distortion * 1000) / 10
    if (!usersOf(project, id).length)
      found.push(at(picture, 'picture-unused', 'advice', {}, { label: 'Delete it', edit: 'delete picture', args: { id } }))
    if (!picture.trims && Math.min(plan.across, plan.down) < 0.995)
      found.push(at(picture, 'picture-enlarged', 'advice', { times: Math.round(10 / Math.min(plan.across, plan.down)) / 10 }))
    if (picture.way === 'stretch' && !picture.trims && Math.abs(off) > 1)
      found.push(
        at(
          picture,
          'picture-stretched',
          'advice',
          { off: Math.abs(off), way: off > 0 ? 'wide' : 'narrow' },
          setting(picture, 'Crop it', { way: 'crop' }),
        ),
      )
    if (picture.keepsAlpha && !project.panel.blends)
      found.push(at(picture, 'picture-blends', 'error', {}, setting(picture, 'Put it on its ground', { keepsAlpha: false })))
    return found
  })
