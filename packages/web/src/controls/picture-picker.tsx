import { shownSize } from '@moth-lamp/core/project'
import { useProject } from '../session/context.tsx'
import { Choice } from './choice.tsx'

/** A picture of the project, or none; where there is none yet, where they come from. */
export function PicturePicker({ label, value, onChange }: { label: string; value: string; onChange(id: string): void }) {
  const { pictures, pictureOrder } = useProject()
  if (!pictureOrder.length) return <span className="small muted">none yet: drop some on Artwork</span>
  const options = pictureOrder.map((id) => {
    const { width, height } = shownSize(pictures[id]!)
    return { value: id, label: pictures[id]!.name, detail: `${width} × ${height}` }
  })
  return (
    <Choice label={label} value={value} searchable options={[{ value: '', label: 'none' }, ...options]} onChange={onChange} />
  )
}
