import type { CommandCall } from '#server/engine/application.ts'
import { unconsidered } from '#core/api/described.ts'
import { asking, askedOf } from '#server/routes/route.ts'
import { call, clientInput, openExample } from '#server/testing/seed.ts'
import { dayMs } from '#core/time/calendar.ts'
import { median, say, sayMachine, timed } from './measuring.ts'

/*
 * What a booking costs for a client with few and with many past ones, asked about first and then made, as the pages do:
 * as a ratio to the client with the fewest. Their past is lived through: booked, sent, over.
 */

const most = Math.max(50, Number(process.argv[2] ?? 500))
const pasts = [6, 50, most]
const rounds = 9

const running = await openExample()
const { application, commands, pump } = running

const dateIn = (days: number) => new Date(application.clock.now() + days * dayMs).toISOString().slice(0, 10)

function bookIn(clientId: string, days: number, how: CommandCall = call('makeBooking')) {
  const date = dateIn(days)
  const times = { startLocal: `${date}T10:00`, endLocal: `${date}T12:00` }
  const input = { clientId, serviceId: 'sv_lesson', ...times, partySize: 1, status: 'confirmed' as const }
  return commands.makeBooking(how, { ...input, personInChargeId: null })
}

const clients = pasts.map((past) => {
  const added = commands.addClient(call('addClient'), clientInput(`Past ${past}`, `past${past}@mail.example`))
  if (!added.ok) throw new Error(added.problem.sentence)
  return { past, id: added.value.id, took: [] as number[] }
})
for (let round = most; round > 0; round -= 1) {
  for (const { past, id } of clients) if (round <= past) bookIn(id, 3)
  await pump.advance(application.clock.now() + 5 * dayMs)
}
await pump.advance(application.clock.now() + 30 * dayMs)

for (let round = 0; round < rounds; round += 1) {
  for (const client of clients) {
    client.took.push(
      timed(() => {
        const { announcement } = askedOf(() => bookIn(client.id, 20 + round, asking('makeBooking', null)))
        const considered = { ...unconsidered, announcementId: announcement.announcementId }
        const made = bookIn(client.id, 20 + round, { ...call('makeBooking'), considered })
        if (!made.ok) throw new Error(made.problem.sentence)
      }),
    )
  }
}
sayMachine()
const [first] = clients
for (const { past, took } of clients) {
  const ratio = median(took) / median(first?.took ?? [1])
  say(
    `${past} past bookings: ${median(took).toFixed(2)} ms a booking, ratio ${ratio.toFixed(2)} (at most 2 is wanted)`,
  )
}
await running.end()
