/** A message's HTML with its pictures as a page of ours can show them. */
export const withPictures = (html: string) =>
  html.replace(/cid:(pc_[A-Za-z0-9-]+)@vorfreude/g, '/api/files/$1')
