import type { Language } from '../model/values.ts'

/** Small words that stand in every few sentences of the one language and in none of the other. */
const telling: Readonly<Record<Language, RegExp>> = {
  en: /\b(the|and|you|we|i|is|are|have|not|to|for|please|yes|with|would|can|it|that|of|until|thank|thanks|my|our)\b/giu,
  de: /\b(der|das|und|sie|wir|ich|ist|sind|haben|nicht|zu|für|bitte|ja|nein|mit|würde|können|dass|ein|eine|einen|uns|danke|bis|leider|auch|noch|den|dem|im|nach|um|uhr|gerne?|passt|wieder|kein|keine|wollen|möchten?|montag|dienstag|mittwoch|donnerstag|freitag|samstag|sonntag)\b/giu,
}

/** The language somebody wrote in; where nothing tells, the one they read otherwise. */
export function languageOf(text: string, usual: Language): Language {
  const count = (language: Language) => text.match(telling[language])?.length ?? 0
  const german = count('de') + (/[äöüß]/iu.test(text) ? 1 : 0)
  const english = count('en')
  if (german === english) return usual
  return german > english ? 'de' : 'en'
}
