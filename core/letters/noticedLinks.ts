import { escapeHtml, unescapeHtml } from './html.ts'

/** A link of a letter by its key. */
export interface KeyedLink {
  readonly key: string
  readonly url: string
}

export interface NoticedLinks {
  readonly html: string
  readonly links: readonly KeyedLink[]
}

interface Noticing {
  /** The same for the same address. */
  readonly keyOf: (url: string) => string
  /** Where a link leads instead, from where it leads on. */
  readonly through: (key: string) => string
  /** Links that are left as they are. */
  readonly isLeft: (url: string) => boolean
}

/** The page of a letter with each web link leading through ours, as letters are written here. */
export function withNoticedLinks(html: string, { keyOf, through, isLeft }: Noticing): NoticedLinks {
  const links = new Map<string, string>()
  const changed = html.replace(
    /(<a\b[^>]*? href=")(https?:[^"]*)(")/g,
    (whole, before: string, href: string, after: string) => {
      const url = unescapeHtml(href)
      if (isLeft(url)) return whole
      const key = keyOf(url)
      links.set(key, url)
      return `${before}${escapeHtml(through(key))}${after}`
    },
  )
  return { html: changed, links: [...links].map(([key, url]) => ({ key, url })) }
}

/** The page of a letter with a picture that nobody sees; asking for it tells that the letter was opened. */
export const withOpeningPicture = (html: string, url: string): string =>
  html.replace(
    '</body>',
    `<img src="${escapeHtml(url)}" alt="" width="1" height="1" style="display:block;border:0">\n</body>`,
  )
