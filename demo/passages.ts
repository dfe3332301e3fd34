import { words } from '#core/letters/authoring.ts'
import type { Inline, Passage } from '#core/model/letter.ts'

function passage(id: string, name: string, ...paragraphs: Inline[][]): Passage {
  return { id, name, paragraphs, version: 1 }
}

/** Words the demo's letters share. */
export const passages: readonly Passage[] = [
  passage(
    'ps_terms',
    'Moving and cancelling',
    words`Up to 24 hours before the start you can move or cancel free of charge; after that we charge half the price. If the weather keeps us on the ground, nothing is lost: we find another day, or you get your money back.`,
  ),
  passage(
    'ps_way',
    'The way and the cars',
    words`The last kilometre is a gravel road; follow the small balloon signs. There is room for cars behind the shed, free of charge.`,
  ),
  passage(
    'ps_weather',
    'The weather decides',
    words`Wind and weather have the last word with us. If we have to find another time, you hear from us as early as we know it ourselves.`,
  ),
  passage(
    'ps_wear',
    'What to wear',
    words`It is about eight degrees cooler up there at first, then the burner warms your head. Bring flat shoes that may get wet, long trousers and a hat. Gloves are with us.`,
  ),
]
