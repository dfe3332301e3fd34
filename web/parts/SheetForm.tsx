import type { ComponentProps } from 'react'
import table from './timetable.module.css'

interface SheetFormProps extends Omit<ComponentProps<'form'>, 'className' | 'onSubmit'> {
  readonly onSubmit: () => void
}

/** A form on a sheet; the page stays where it is when it is sent. */
export function SheetForm({ onSubmit, ...rest }: SheetFormProps) {
  return (
    <form
      {...rest}
      className={table.form}
      onSubmit={(event) => {
        event.preventDefault()
        onSubmit()
      }}
    />
  )
}
