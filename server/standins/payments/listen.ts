import { once } from 'node:events'
import type { AddressInfo } from 'node:net'
import express from 'express'
import { z } from 'zod'
import { callWeb } from '../../mail/webCall.ts'
import { readAsked, type AskedPayment, type ToldPayment } from './asking.ts'
import { brokenPage, payingPage, tellings, type Telling } from './page.ts'

/** How long "late" is, in milliseconds of real time. */
const lateMs = 10_000

const chosen = z.object({
  outcome: z.enum(['paid', 'refused', 'pending']),
  told: z.enum(tellings).catch('once'),
})

/** Listens as a page where an amount is paid, as if by a real payment service: it tells what came of it, signed. */
export async function listenForPayments(key: string) {
  const paid = new Set<string>()
  const timers = new Set<NodeJS.Timeout>()

  async function tell(
    { tell: url, about, reference, cents }: AskedPayment,
    outcome: ToldPayment['outcome'],
    told: Telling,
  ) {
    const body = JSON.stringify({ about, reference, cents, outcome })
    const call = () => callWeb(url, body, { secret: key, allowsOwnNetwork: true })
    if (told === 'never') return
    if (told === 'late') {
      const timer = setTimeout(() => {
        timers.delete(timer)
        void call()
      }, lateMs)
      timers.add(timer)
      return
    }
    await call()
    if (told === 'twice') await call()
  }

  const app = express()
  app.disable('x-powered-by')
  app.use((_, response, next) => {
    response.set('Cache-Control', 'no-store').set('Referrer-Policy', 'no-referrer')
    next()
  })
  app.get('/', (request, response) => {
    const asked = readAsked(request.query, key)
    if (asked) response.send(payingPage(asked, paid.has(asked.reference)))
    else response.status(400).send(brokenPage)
  })
  app.post('/', express.urlencoded({ extended: false, limit: '8kb' }), async (request, response) => {
    const asked = readAsked(request.query, key)
    const choice = chosen.safeParse(request.body)
    if (!asked || !choice.success) {
      response.status(400).send(brokenPage)
      return
    }
    const { outcome, told } = choice.data
    if (!paid.has(asked.reference)) {
      if (outcome === 'paid') paid.add(asked.reference)
      await tell(asked, outcome, told)
    }
    const back = new URL(asked.back)
    back.searchParams.set('outcome', outcome)
    response.redirect(303, back.toString())
  })
  const server = app.listen(0, '127.0.0.1')
  await once(server, 'listening')
  return {
    port: (server.address() as AddressInfo).port,
    close: async () => {
      timers.forEach((timer) => clearTimeout(timer))
      server.closeAllConnections()
      await new Promise((resolve) => server.close(resolve))
    },
  }
}
