import type { Router } from 'express'
import { escapeHtml } from '#core/letters/html.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { sendClientPage } from '../clientPages/page.ts'

const sentence =
  'This was a test. In a message to a client this link leads to the client’s own page; in a test copy it changes nothing.'

/** Where the links of test copies lead, whatever is pressed: a client's own links have no place in them. */
export function testLinkRoutes(router: Router, { application }: RunningApplication) {
  router.all('/test{/*rest}', (_, response) =>
    sendClientPage(response, {
      status: 200,
      language: 'en',
      title: 'A test',
      heading: application.settings.current()?.business.name ?? 'A test',
      body: `<p>${escapeHtml(sentence)}</p>`,
    }),
  )
}
