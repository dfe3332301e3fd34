import type { Request, Response, Router } from 'express'
import { sendClientPage } from '../clientPages/page.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { linkOfToken } from '../engine/noticing/noticedMessage.ts'
import { idOfToken } from '../mail/signedLinks.ts'

/** A transparent picture of one dot (GIF 89a). */
const onePixel = Buffer.from('R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7', 'base64')

const isHead = ({ method }: Request) => method === 'HEAD'

/** Neither kept nor found: each time it is asked for tells something. */
function unkept(response: Response): Response {
  return response.set({
    'Cache-Control': 'no-store',
    'X-Robots-Tag': 'noindex',
    'Referrer-Policy': 'no-referrer',
  })
}

/** Where links of messages lead from. A link leads only to what its message held. */
export function followedRoutes(router: Router, { application, visits, onFault }: RunningApplication) {
  const { keys } = application.store
  // Noticing never keeps anybody from where they want to go.
  const note = (asked: Parameters<typeof visits.note>[0]) => {
    try {
      visits.note(asked)
    } catch (fault) {
      onFault(fault)
    }
  }
  router.get('/to/:token', (request, response) => {
    const link = linkOfToken(request.params.token, keys)
    const target = link && visits.targetOf(link.sendId, link.linkKey)
    if (!link || target === null) {
      const heading = application.settings.current()?.business.name ?? ''
      const body = '<p>This link is not valid.</p>'
      sendClientPage(response, { status: 404, language: 'en', title: heading, heading, body })
      return
    }
    note({ ...link, isHead: isHead(request) })
    unkept(response).redirect(302, target)
  })
  router.get('/seen/:token', (request, response) => {
    const sendId = idOfToken('opened', request.params.token, keys)
    if (sendId !== null) note({ sendId, linkKey: null, isHead: isHead(request) })
    // A picture that is missing would stand out in the letter.
    unkept(response).set('Cross-Origin-Resource-Policy', 'cross-origin').type('image/gif').send(onePixel)
  })
}
