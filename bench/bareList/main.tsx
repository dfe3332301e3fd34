import { useVirtualizer } from '@tanstack/react-virtual'
import { useRef } from 'react'
import { createRoot } from 'react-dom/client'

const count = Number(new URLSearchParams(location.search).get('count') ?? 100_000)

/** As many lines as the application's list, of plain text that is there already. */
function BareList() {
  const scroller = useRef<HTMLDivElement>(null)
  const virtual = useVirtualizer({
    count,
    getScrollElement: () => scroller.current,
    estimateSize: () => 38,
    overscan: 25,
  })
  return (
    <div
      ref={scroller}
      role="region"
      aria-label="Messages, day by day"
      style={{ height: 520, overflow: 'auto' }}
    >
      <ul style={{ position: 'relative', height: virtual.getTotalSize(), margin: 0, padding: 0 }}>
        {virtual.getVirtualItems().map(({ index, start }) => (
          <li
            key={index}
            style={{
              position: 'absolute',
              left: 0,
              right: 0,
              height: 38,
              transform: `translateY(${start}px)`,
            }}
          >
            <button type="button">Line {index}</button>
          </li>
        ))}
      </ul>
    </div>
  )
}

const root = document.getElementById('root')
if (root) createRoot(root).render(<BareList />)
