import type { RequestHandler } from 'express'
import type { Language } from '#core/model/values.ts'
import type { Application } from '../engine/application.ts'
import { sendClientPage } from './page.ts'
import { readerLanguage } from './visit.ts'

const words: Readonly<Record<Language, { readonly heading: string; readonly sentence: string }>> = {
  en: { heading: 'Not open yet', sentence: 'Nothing can be booked here yet. Please come back later.' },
  de: {
    heading: 'Noch nicht geöffnet',
    sentence: 'Hier lässt sich noch nichts buchen. Bitte kommen Sie später wieder.',
  },
}

/** While no business has been set up there is nothing behind the pages of clients, and they say so. */
export const openOnceSetUp =
  ({ application: { settings } }: { readonly application: Application }): RequestHandler =>
  (request, response, next) => {
    if (settings.current()) {
      next()
      return
    }
    const language = readerLanguage(request)
    const { heading, sentence } = words[language]
    sendClientPage(response, {
      status: 503,
      language,
      title: 'Vorfreude',
      heading,
      body: `<p>${sentence}</p>`,
    })
  }
