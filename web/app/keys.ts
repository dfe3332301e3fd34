/** The keys of the Desk: the screens that act on them, their buttons and the list of keys all take them from here. */
export const deskKeys = {
  approve: 'A',
  sendNow: 'N',
  skip: 'K',
  later: 'L',
  edit: 'E',
  stop: 'S',
  together: 'T',
  taskDone: 'D',
  called: 'C',
  delivered: 'W',
  answer: 'R',
} as const

interface KeyLine {
  readonly key: string
  readonly does: string
}

export const keysEverywhere: readonly KeyLine[] = [
  { key: 'Ctrl + K', does: 'find a client, booking, letter, sequence or section' },
  { key: '?', does: 'show these keys' },
]

/** The keys of single screens, by what their addresses begin with. */
const ofScreens: readonly {
  readonly at: RegExp
  readonly name: string
  readonly keys: readonly KeyLine[]
}[] = [
  {
    at: /^\/desk\/to-do/,
    name: 'To do',
    keys: [{ key: deskKeys.taskDone, does: 'the task or mail is done' }],
  },
  {
    at: /^\/desk\/trouble/,
    name: 'Trouble',
    keys: [
      { key: deskKeys.sendNow, does: 'send it now' },
      { key: deskKeys.called, does: 'the client was called instead' },
      { key: deskKeys.skip, does: 'let it go' },
      { key: deskKeys.delivered, does: 'it was delivered; only for what is in doubt' },
    ],
  },
  {
    at: /^\/desk(\/decide|$)/,
    name: 'Deciding',
    keys: [
      { key: deskKeys.approve, does: 'approve: it goes at its time' },
      { key: deskKeys.sendNow, does: 'send now, whatever the hours' },
      { key: deskKeys.skip, does: 'skip: it counts as done and does not go' },
      { key: deskKeys.later, does: 'later: put it off' },
      { key: deskKeys.edit, does: 'edit this copy' },
      { key: deskKeys.stop, does: 'stop the sequence for this client' },
      { key: deskKeys.together, does: 'approve alike messages together' },
      { key: deskKeys.answer, does: 'answer a mail that came in' },
      { key: deskKeys.taskDone, does: 'be done with a mail that came in' },
    ],
  },
  {
    at: /^\/sequence\//,
    name: 'A sequence',
    keys: [
      { key: '← →', does: 'move the pin that has the focus' },
      { key: 'Ctrl + Z', does: 'undo' },
      { key: 'Ctrl + Shift + Z', does: 'do again' },
    ],
  },
  {
    at: /^\/letter\//,
    name: 'A letter',
    keys: [
      { key: 'Ctrl + .', does: 'put a field in' },
      { key: 'Alt + ↑ ↓', does: 'move a section' },
      { key: 'Ctrl + Z', does: 'undo' },
    ],
  },
]

/** The keys of the screen at an address; undefined: it has none of its own. */
export const keysAt = (pathname: string) => ofScreens.find(({ at }) => at.test(pathname))
