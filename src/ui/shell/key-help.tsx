'use client'
import { Dialog } from '../kit/popover'

const keys: [string, string][] = [
  ['1 – 4', 'Data, Map, Sheet, Proof'],
  ['/', 'find anything'],
  ['?', 'this list'],
  ['Ctrl Z, Ctrl Shift Z', 'undo, redo'],
  ['F', 'fit the map or the page'],
  ['+ −', 'closer, further'],
  ['B', 'fold the class bench'],
  ['C', 'the same map by every method'],
  ['L', 'on a break: lock it'],
  ['[ ]', 'previous, next sheet'],
  ['Arrows', 'move the part by 1 mm (Shift 10 mm, Alt 0.1 mm), or the break by a step'],
  ['Ctrl A', 'choose all parts'],
  ['Ctrl C, X, V', 'copy, cut, paste; Shift V in place'],
  ['G, Shift G', 'group parts, take a group apart'],
  ['. ,', 'inside a panel: turn the map'],
  ['D', 'duplicate the part'],
  ['L, H', 'lock, hide the part'],
  ['Delete', 'delete the part'],
  ['Page up, Page down', 'part up, down in the pile'],
  ['Enter or double click', 'inside a part'],
  ['Escape', 'out of it again'],
]

export function KeyHelp({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog open={open} onClose={onClose} title="Keys">
      <dl className="grid grid-cols-[170px_1fr] gap-y-1.5">
        {keys.map(([key, what]) => (
          <div key={key} className="contents">
            <dt className="font-medium">{key}</dt>
            <dd className="text-muted">{what}</dd>
          </div>
        ))}
      </dl>
    </Dialog>
  )
}
