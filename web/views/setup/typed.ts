import { hoursFault, hoursText, readHours } from '#core/time/hoursText.ts'
import type { OpeningHours } from '#core/model/openingHours.ts'

/** Hours of each weekday as they are typed, Monday first. */
export const typedWeek = (weekly: OpeningHours['weekly']): string[] => weekly.map(hoursText)

/** The hours that were typed; what cannot be read is closed, and a fault. */
export const readWeek = (typed: readonly string[]): OpeningHours['weekly'] =>
  typed.map((day) => readHours(day) ?? [])

/** What was typed where nothing need be; empty: null. */
export const orNull = (typed: string): string | null => (typed.trim() === '' ? null : typed)

type Fault = readonly [path: string, sentence: string]

/** What is wrong with typed hours, under the name of their field and the number of the day. */
export const weekFaults = (name: string, typed: readonly string[]): readonly Fault[] =>
  typed.flatMap((day, index): readonly Fault[] => {
    const fault = hoursFault(day)
    return fault === null ? [] : [[`${name}.${index}`, fault]]
  })

/** A fault of the model as a form says it: an empty number is something that is missing. */
export const sayFault = (message: string) =>
  message.startsWith('Invalid input: expected number')
    ? 'Give a number.'
    : message.startsWith('Invalid input: expected string')
      ? 'Say it here.'
      : message
