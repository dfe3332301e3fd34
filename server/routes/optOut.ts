import express, { type Response, type Router } from 'express'
import { labels } from '#core/letters/language.ts'
import { sendClientPage } from '../clientPages/page.ts'
import { idOfToken } from '../mail/signedLinks.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { readPresentClient } from '../db/clientMerges.ts'

const words = {
  en: {
    question: 'You get news and offers from us by mail. Appointment messages come in any case.',
    button: 'No news and offers any more',
    done: 'Done. You get no news and offers any more; messages about your appointments still come.',
    unknown: 'This link is not valid.',
  },
  de: {
    question: 'Sie bekommen Neuigkeiten und Angebote von uns. Nachrichten zu Terminen kommen in jedem Fall.',
    button: 'Keine Neuigkeiten und Angebote mehr',
    done: 'Erledigt. Neuigkeiten und Angebote kommen nicht mehr, Nachrichten zu Ihren Terminen schon.',
    unknown: 'Dieser Link ist nicht gültig.',
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
  router.get('/choose/:token', (request, response) => {
    const client = clientOf(request.params.token)
    const language = client?.language ?? 'en'
    const own = words[language]
    if (!client) {
      page(response, 404, 'en', businessName(), `<p>${own.unknown}</p>`)
      return
    }
    const form = `<p>${own.question}</p><form method="post"><button>${own.button}</button></form>`
    page(response, 200, language, businessName(), client.takesPromotional ? form : `<p>${own.done}</p>`)
  })
  router.post('/choose/:token', express.urlencoded({ extended: false }), (request, response) => {
    const client = clientOf(request.params.token)
    if (!client) {
      page(response, 404, 'en', businessName(), `<p>${words.en.unknown}</p>`)
      return
    }
    commands.optOut(client.id)
    page(response, 200, client.language, businessName(), `<p>${words[client.language].done}</p>`)
  })
}
