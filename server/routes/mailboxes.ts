import type { Router } from 'express'
import { endpoints } from '#core/api/endpoints.ts'
import { fileEndpoints } from '#core/api/fileEndpoints.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { openingPicture, readMail, readMailbox, readMailHtml } from '../standins/mailboxes.ts'
import { handIn } from '../engine/incoming/handIn.ts'
import { reactionTo } from '../standins/postOffice/reactions.ts'
import { Refusal } from '../http/problems.ts'
import { give, serve } from './route.ts'

const noPostOffice = 'Messages go to a real mail account here: there are no made-up mailboxes.'

const noWayIn = 'Nothing is taken in here: mail of clients would reach nobody.'
const noPicture =
  'This message has no picture that tells: opens are not noticed here, of this letter or of this client.'
const noLink = 'There is no such link in this message.'
const leadsOutside = 'That link leads straight to another place: nobody here knows when it is followed.'
const notPossible = 'That cannot be done with this message: it has no invitation, or says no sender.'

export function mailboxRoutes(router: Router, running: RunningApplication) {
  const { application, postOffice } = running
  const { statements } = application.store
  const file = () => {
    if (!postOffice) throw new Refusal('not found', noPostOffice)
    return postOffice
  }
  serve(router, statements, endpoints.mailbox, ({ parameters }) => readMailbox(file(), parameters.address))
  serve(router, statements, endpoints.mail, async ({ parameters }) => {
    const mail = await readMail(file(), Number(parameters.id))
    if (!mail) throw new Refusal('not found', 'There is no such message in the post office.')
    return mail
  })
  serve(router, statements, endpoints.reactAsClient, async ({ parameters, body }) => {
    const mail = file().mail(Number(parameters.id))
    if (!mail) throw new Refusal('not found', 'There is no such message in the post office.')
    const made = await reactionTo(mail, body.reaction, body.text, application.clock.now())
    if (!made) throw new Refusal('not allowed now', notPossible)
    if (!(await handIn(running, made))) throw new Refusal('not allowed now', noWayIn)
    return {}
  })
  serve(router, statements, endpoints.followAsClient, async ({ parameters, body: { url } }) => {
    const mail = file().mail(Number(parameters.id))
    if (!mail) throw new Refusal('not found', 'There is no such message in the post office.')
    const shown = await readMail(file(), mail.id)
    const wanted =
      url === null ? await openingPicture(mail) : (shown?.links.find((one) => one.url === url)?.url ?? null)
    if (wanted === null) throw new Refusal('not allowed now', url === null ? noPicture : noLink)
    // Nothing outside this house is ever fetched.
    if (!wanted.startsWith(`${running.publicUrl()}/`)) throw new Refusal('not allowed now', leadsOutside)
    await fetch(wanted, { redirect: 'manual' })
    await running.visits.settled()
    return {}
  })
  // The HTML part itself, for a sandboxed frame: it may run nothing and load nothing.
  give(router, statements, fileEndpoints.mailHtml, async ({ parameters, response }) => {
    const html = await readMailHtml(file(), Number(parameters.id))
    if (html === null) throw new Refusal('not found', 'This message has no HTML part.')
    response.set(
      'Content-Security-Policy',
      "sandbox; default-src 'none'; style-src 'unsafe-inline'; img-src data:; frame-ancestors 'self'",
    )
    response.type('text/html').send(html)
  })
}
