import { useDebouncedValue } from '@mantine/hooks'
import { useEffect, useMemo, useRef, useState } from 'react'
import type { LetterView } from '#core/api/letterEndpoints.ts'
import { piecesOfLetter, type LetterProblem } from '#core/letters/problems.ts'
import { typedText } from '#core/letters/spelling.ts'
import type { LetterContent } from '#core/model/letter.ts'
import type { Misspelling, SpellingAnswer, SpellingQuestion } from './spelling.worker.ts'

type Place = LetterProblem['place']

function problemOf(place: Place, { word, suggestion }: Misspelling): LetterProblem {
  const put = suggestion === null ? [] : [{ label: `Put “${suggestion}”`, by: suggestion }]
  return {
    code: 'spelling',
    place,
    about: word,
    why: 'The dictionary does not have this word.',
    fixes: [
      ...put.map(({ label, by }) => ({ label, does: { kind: 'replace text', text: word, by } as const })),
      { label: 'It is right', does: { kind: 'add own word', word } },
    ],
  }
}

const unread: LetterProblem = {
  code: 'spelling',
  place: { in: 'letter' },
  about: 'Spelling',
  why: 'It was not looked at: the dictionary could not be read. Reload the page to try again.',
  fixes: [],
}

interface Found {
  readonly places: readonly Place[]
  readonly words: SpellingAnswer['found']
}

/** The words of a letter that no dictionary has, looked up in a worker shortly after the last key. */
export function useSpelling(
  content: LetterContent,
  { ownWords, names }: LetterView['context'],
): readonly LetterProblem[] {
  const worker = useRef<Worker | null>(null)
  const asked = useRef<{ count: number; places: readonly Place[] }>({ count: 0, places: [] })
  const [found, setFound] = useState<Found>({ places: [], words: [] })
  const [settled] = useDebouncedValue(content, 600)
  useEffect(() => {
    const own = new Worker(new URL('./spelling.worker.ts', import.meta.url), { type: 'module' })
    own.addEventListener('message', ({ data }: MessageEvent<SpellingAnswer>) => {
      if (data.asked === asked.current.count) setFound({ places: asked.current.places, words: data.found })
    })
    worker.current = own
    return () => own.terminate()
  }, [])
  useEffect(() => {
    const pieces = piecesOfLetter(settled)
    asked.current = { count: asked.current.count + 1, places: pieces.map(({ place }) => place) }
    const question: SpellingQuestion = {
      asked: asked.current.count,
      ownWords: [...ownWords, ...names.map(({ name }) => name)],
      texts: pieces.map(({ nodes, language }) => ({ text: typedText([nodes]), language })),
    }
    worker.current?.postMessage(question)
  }, [settled, ownWords, names])
  return useMemo(
    () =>
      found.words?.flatMap((words, index) => {
        const place = found.places[index]
        return place ? words.map((word) => problemOf(place, word)) : []
      }) ?? [unread],
    [found],
  )
}
