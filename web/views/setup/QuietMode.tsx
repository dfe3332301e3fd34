import { Button, TagsInput } from '@mantine/core'
import { useState } from 'react'
import { useBusiness } from '../../app/business.ts'
import { useTell } from '../../app/queries.ts'
import { Problem } from '../../parts/Problem.tsx'
import { SheetForm } from '../../parts/SheetForm.tsx'
import table from '../../parts/timetable.module.css'

/** Messages reach some addresses alone, to look on before clients get anything. */
export function QuietMode({ ownAddress }: { ownAddress: string }) {
  const { overview } = useBusiness()
  const { onlyTo } = overview.sending
  const [addresses, setAddresses] = useState<string[]>(onlyTo ?? [ownAddress])
  const set = useTell('setOnlyTo')
  const isSame = onlyTo !== null && addresses.join('|') === onlyTo.join('|')
  return (
    <section className={table.sheet} aria-label="Quiet mode" style={{ marginTop: '1rem' }}>
      <h2 className={table.group}>Quiet mode</h2>
      <SheetForm style={{ maxWidth: '44rem' }} onSubmit={() => set.mutate({ body: { addresses } })}>
        <p>
          Everything is planned and goes as usual, but reaches only the addresses you name here. What would go
          to anybody else is held when it falls due and listed in Trouble, to be sent or skipped; nothing of
          it goes by itself later.
        </p>
        <TagsInput
          label="Only to"
          description="Type an address, then Enter."
          value={addresses}
          onChange={setAddresses}
        />
        <Problem of={set.error} />
        {onlyTo !== null && (
          <p role="status">
            <b>Quiet mode is on.</b>
          </p>
        )}
        <div className={table.acts}>
          <Button
            type="submit"
            variant="default"
            disabled={isSame || addresses.length === 0}
            loading={set.isPending}
          >
            {onlyTo === null ? 'Begin quiet mode' : 'Keep these addresses'}
          </Button>
          {onlyTo !== null && (
            <Button loading={set.isPending} onClick={() => set.mutate({ body: { addresses: null } })}>
              End quiet mode
            </Button>
          )}
        </div>
      </SheetForm>
    </section>
  )
}
