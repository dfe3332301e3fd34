import { bookableDays, freeTimes } from '#core/booking/freeTimes.ts'
import { standardOffer } from '#core/model/offer.ts'
import { exampleService } from '#core/rehearsal/exampleBusiness.ts'
import { dayMs, hourMs, minuteMs } from '#core/time/calendar.ts'
import { placeZone } from '#core/planning/slice.ts'
import { dayAt, instantAt } from '#core/time/zones.ts'
import { putBooking, readBooking } from '#server/db/clientStore.ts'
import { putService } from '#server/db/settingsStore.ts'
import { diaryBetween } from '#server/engine/diaries.ts'
import { addBookedClient, openExample } from '#server/testing/seed.ts'
import { median, say, sayMachine, timed } from './measuring.ts'

/*
 * The free times of a service over its whole horizon, with many bookings in it, as the public page asks for them: in
 * milliseconds, and as a ratio to reading the same bookings bare.
 */

const count = Number(process.argv[2] ?? 5000)
const rounds = 15
const running = await openExample()
const { application, commands } = running
const { store, settings, clock } = application
const horizonDays = 365

store.transaction(() => {
  const offer = {
    ...standardOffer,
    isPublic: true,
    horizonDays,
    bufferBeforeMinutes: 15,
    bufferAfterMinutes: 15,
    starts: {
      kind: 'hours' as const,
      everyMinutes: 30,
      hours: {
        weekly: Array.from({ length: 7 }, () => [{ from: '08:00', to: '20:00' }]),
        holidays: 'open' as const,
        closedDates: [],
      },
    },
  }
  putService(store.statements, { ...exampleService, seats: 4, durationMinutes: 60, offer })
})
settings.forget()
const pattern = readBooking(
  store.statements,
  addBookedClient(application, commands, 'One', 'one@mail.example'),
)
if (!pattern) throw new Error('It was just booked')
store.transaction(() => {
  for (let index = 0; index < count; index += 1) {
    const startAt =
      clock.now() + dayMs + ((Math.imul(index + 1, 2_654_435_761) >>> 0) % (horizonDays * 24 * 60)) * minuteMs
    putBooking(store.statements, {
      ...pattern,
      id: `bk_${index}`,
      startAt,
      endAt: startAt + hourMs,
      partySize: 1,
    })
  }
})

const present = settings.required()
const [service] = present.services
if (!service) throw new Error('There is one service')
const zone = placeZone(present, service)
const { fromDay, toDay } = bookableDays(present, service, clock.now())
const [from, to] = [instantAt(zone, fromDay, 0), instantAt(zone, toDay + 1, 0)]
let found = 0
const bare: number[] = []
const whole: number[] = []
const month: number[] = []
for (let round = 0; round < rounds; round += 1) {
  bare.push(timed(() => store.statements.all('takenBetween', { from, to, exceptBookingId: null })))
  whole.push(
    timed(() => {
      const diary = diaryBetween(application, from, to)
      found = freeTimes(present, service, diary, { fromDay, toDay, now: clock.now(), partySize: 1 }).length
    }),
  )
  month.push(
    timed(() => {
      const first = dayAt(zone, clock.now()) + 60
      const diary = diaryBetween(application, instantAt(zone, first, 0), instantAt(zone, first + 31, 0))
      freeTimes(present, service, diary, {
        fromDay: first,
        toDay: first + 30,
        now: clock.now(),
        partySize: 1,
      })
    }),
  )
}
sayMachine()
say(`${count} bookings in ${horizonDays} days, ${found} free times`)
say(
  `the whole horizon: ${median(whole).toFixed(1)} ms (under 100 is wanted), ratio to a bare scan ${(median(whole) / median(bare)).toFixed(1)}`,
)
say(`one month, as the page shows it: ${median(month).toFixed(1)} ms`)
await running.end()
