'use client'
import { shareable, shareOf } from '@/core/map/share'
import type { Layer } from '@/core/map/spec'
import { Button, Check, Segments } from '../../kit/controls'
import { Popover } from '../../kit/popover'
import { useDocument } from '../../shell/folio-store'
import { changeClassing, shareNoMore, shareWith } from '../edit-classing'

/** Which other layers, on this map or another, have the same classes. */
export function SharePopover({ layer }: { layer: Layer }) {
  const folio = useDocument()
  const share = shareOf(layer)
  const others = shareable(folio, layer)
  const on = others.filter((other) => share && shareOf(other.layer)?.id === share.id)
  return (
    <Popover
      label="Share classes"
      align="end"
      side="top"
      className="w-72"
      trigger={
        <Button
          className={`!h-6 !px-1 font-condensed !text-xs ${share ? '!border-primary text-primary' : ''}`}
        >
          {share ? `Shared by ${on.length + 1}` : 'Share'}
        </Button>
      }
    >
      <p className="mb-1 text-xs text-muted">
        Layers with one scheme have the same breaks, colours and labels. A change in one is a change in all.
      </p>
      {others.length === 0 && <p className="text-xs">No other layer of this kind is in the folio.</p>}
      <ul>
        {others.map((other) => (
          <li key={other.layer.id}>
            <Check
              label={
                other.layer.name === other.map.name
                  ? other.layer.name
                  : `${other.layer.name} (${other.map.name})`
              }
              checked={on.includes(other)}
              onChange={(checked) => (checked ? shareWith(layer, other.layer) : shareNoMore(other.layer))}
            />
          </li>
        ))}
      </ul>
      {share && (
        <div className="mt-1 flex flex-col gap-2 border-t border-line pt-2">
          <Segments
            label="What breaks are reckoned over"
            value={share.over}
            options={[
              { value: 'all', label: 'Over all values' },
              { value: 'each', label: 'Over its own' },
            ]}
            onChange={(over) =>
              changeClassing(
                layer,
                over === 'all' ? 'Breaks over all values' : 'Breaks over own values',
                (s) => void (s.share && (s.share.over = over)),
              )
            }
          />
          <Button onClick={() => shareNoMore(layer)}>Classes of its own</Button>
        </div>
      )}
    </Popover>
  )
}
