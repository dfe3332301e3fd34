interface AskedPart {
  readonly after?: string | undefined
  readonly limit: number
}

/** A part of a list by a query that takes `afterId` and `limit`: one more is read than is given, to know whether more follow. */
export function inParts<Line extends { readonly id: string }>(
  { after, limit }: AskedPart,
  read: (asked: { afterId: string | null; limit: number }) => readonly Line[],
): { lines: Line[]; next: string | null } {
  const found = read({ afterId: after ?? null, limit: limit + 1 })
  const lines = found.slice(0, limit)
  return { lines, next: found.length > limit ? (lines.at(-1)?.id ?? null) : null }
}
