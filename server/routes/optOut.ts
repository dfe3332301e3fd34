import express, { type Response, type Router } from 'express'
import { labels } from '#core/letters/language.ts'
import { sendClientPage } from '../clientPages/page.ts'
import type { Client } from '#core/model/client.ts'
import { isUnnoticed } from '../db/visitStore.ts'
import { idOfToken } from '../mail/signedLinks.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { readPresentClient } from '../db/clientMerges.ts'

const words = {
  en: {
    question: 'You get news and offers from us by mail. Appointment messages come in any case.',
    button: 'No news and offers any more',
    done: 'Done. You get no news and offers any more; messages about your appointments still come.',
    unknown: 'This link is not valid.',
    noticed: 'We see when a link in our messages is followed.',
    notNoticed: 'It is not noticed which of our links you follow.',
    doNotNotice: 'Do not look at what I follow',
  },
  de: {
    question: 'Sie bekommen Neuigkeiten und Angebote von uns. Nachrichten zu Terminen kommen in jedem Fall.',
    button: 'Keine Neuigkeiten und Angebote mehr',
    done: 'Erledigt. Neuigkeiten und Angebote kommen nicht mehr, Nachrichten zu Ihren Terminen schon.',
    unknown: 'Dieser Link ist nicht gültig.',
    noticed: 'Wir sehen, wenn ein Link in unseren Nachrichten geöffnet wird.',
    notNoticed: 'Welche Links Sie öffnen, sehen wir nicht.',
    doNotNotice: 'Nicht ansehen, was ich öffne',
  },
} as const

function page(response: Response, status: number, language: 'en' | 'de', heading: string, body: string) {
  sendClientPage(response, { status, language, title: labels[language].links['link.optOut'], heading, body })
}

/** The page where a client ends promotional mail: no sign-in, a signed link, one press (RFC 8058 3.2). */
export function optOutRoutes(router: Router, { application, commands }: RunningApplication) {
  const clientOf = (token: string) => {
    const clientId = idOfToken('opt-out', token, application.store.keys)
    return clientId === null ? null : readPresentClient(application.store.statements, clientId)
  }
  const businessName = () => application.settings.current()?.business.name ?? ''
  /** What is noticed of them, where anything is, with the way to end it. */
  const noticedPart = ({ id, language }: Client) => {
    const { links, opens } = application.settings.required().noticing
    const own = words[language]
    if (!links && !opens) return ''
    if (isUnnoticed(application.store.statements, id)) return `<p>${own.notNoticed}</p>`
    return `<p>${own.noticed}</p><form method="post"><input type="hidden" name="about" value="notice"><button>${own.doNotNotice}</button></form>`
  }
  router.get('/choose/:token', (request, response) => {
    const client = clientOf(request.params.token)
    const language = client?.language ?? 'en'
    const own = words[language]
    if (!client) {
      page(response, 404, 'en', businessName(), `<p>${own.unknown}</p>`)
      return
    }
    const form = `<p>${own.question}</p><form method="post"><button>${own.button}</button></form>`
    const promotional = client.takesPromotional ? form : `<p>${own.done}</p>`
    page(response, 200, language, businessName(), `${promotional}${noticedPart(client)}`)
  })
  router.post('/choose/:token', express.urlencoded({ extended: false }), (request, response) => {
    const client = clientOf(request.params.token)
    if (!client) {
      page(response, 404, 'en', businessName(), `<p>${words.en.unknown}</p>`)
      return
    }
    const own = words[client.language]
    // One press of a mail program asks for nothing but the first (RFC 8058 3.2).
    if ((request.body as { about?: unknown } | undefined)?.about === 'notice') {
      commands.doNotNotice(client.id)
      page(response, 200, client.language, businessName(), `<p>${own.notNoticed}</p>`)
      return
    }
    commands.optOut(client.id)
    page(response, 200, client.language, businessName(), `<p>${own.done}</p>`)
  })
}
