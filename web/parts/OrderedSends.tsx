import { Button } from '@mantine/core'
import { looking } from '../app/theme.ts'
import { useState } from 'react'
import type { SendLine } from '#core/api/views.ts'
import { sendOrder } from './sendOrder.ts'
import { SendRows } from './SendRows.tsx'
import table from './timetable.module.css'

/** So few stand there without being folded. */
const fewLeftOut = 6

function LeftOut({ sends }: { sends: readonly SendLine[] }) {
  const [isOpen, setOpen] = useState(false)
  const isFolded = !isOpen && sends.length > fewLeftOut
  return (
    <>
      <h3 className={table.part}>
        Came to nothing{' '}
        {sends.length > fewLeftOut && (
          <Button
            {...looking}
            size="compact-sm"
            variant="subtle"
            aria-expanded={isOpen}
            onClick={() => setOpen(!isOpen)}
          >
            {isOpen ? 'Fold them' : `${sends.length} earlier…`}
          </Button>
        )}
      </h3>
      {!isFolded && <SendRows sends={sends} isClientKnown />}
    </>
  )
}

/** Messages of one booking or client: the next first, then what has gone; what came to nothing is folded. */
export function OrderedSends({ sends }: { sends: readonly SendLine[] }) {
  const { coming, gone, leftOut } = sendOrder(sends)
  return (
    <>
      {coming.length > 0 && (
        <>
          <h3 className={table.part}>To come</h3>
          <SendRows sends={coming} isClientKnown />
        </>
      )}
      {gone.length > 0 && (
        <>
          <h3 className={table.part}>Gone</h3>
          <SendRows sends={gone} isClientKnown />
        </>
      )}
      {leftOut.length > 0 && <LeftOut sends={leftOut} />}
    </>
  )
}
