import type { OwnWords } from '#core/model/letter.ts'

/** Words for one copy that were typed and neither saved nor given up, by message: closing their panel loses nothing. */
export const unsavedWords = new Map<string, OwnWords>()
