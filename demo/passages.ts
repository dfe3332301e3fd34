import { words } from '#core/letters/authoring.ts'
import type { Inline, Passage } from '#core/model/letter.ts'

function passage(id: string, name: string, words: Inline[], german: Inline[]): Passage {
  const translations: Passage['translations'] = [{ language: 'de', paragraphs: [german] }]
  return { id, name, paragraphs: [words], translations, version: 1 }
}

/** Words the demo's letters share. */
export const passages: readonly Passage[] = [
  passage(
    'ps_terms',
    'Moving and cancelling',
    words`Up to 24 hours before the start you can move or cancel free of charge; after that we charge half the price. If the weather keeps us on the ground, nothing is lost: we find another day, or you get your money back.`,
    words`Bis 24 Stunden vor Beginn können Sie kostenlos umbuchen oder absagen; danach berechnen wir den halben Preis. Hält uns das Wetter am Boden, ist nichts verloren: Wir finden einen anderen Tag, oder Sie bekommen Ihr Geld zurück.`,
  ),
  passage(
    'ps_way',
    'The way and the cars',
    words`The last kilometre is a gravel road; follow the small balloon signs. There is room for cars behind the shed, free of charge.`,
    words`Der letzte Kilometer ist ein Schotterweg; folgen Sie den kleinen Ballonschildern. Hinter dem Schuppen ist kostenlos Platz für Autos.`,
  ),
  passage(
    'ps_weather',
    'The weather decides',
    words`Wind and weather have the last word with us. If we have to find another time, you hear from us as early as we know it ourselves.`,
    words`Wind und Wetter haben bei uns das letzte Wort. Müssen wir einen anderen Termin finden, hören Sie davon, sobald wir es selbst wissen.`,
  ),
  passage(
    'ps_wear',
    'What to wear',
    words`It is about eight degrees cooler up there at first, then the burner warms your head. Bring flat shoes that may get wet, long trousers and a hat. Gloves are with us.`,
    words`Oben ist es zuerst etwa acht Grad kühler, dann wärmt der Brenner den Kopf. Bringen Sie flache Schuhe mit, die nass werden dürfen, eine lange Hose und eine Mütze. Handschuhe haben wir.`,
  ),
]
