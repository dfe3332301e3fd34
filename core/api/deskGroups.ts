/** Groups of the Desk whose entries are messages that do not wait for a person. */
export const deskMessageGroups = ['trouble', 'went-out', 'still-today'] as const
export type DeskMessageGroup = (typeof deskMessageGroups)[number]

export const deskGroups = ['decide', 'to-do', ...deskMessageGroups] as const
export type DeskGroup = (typeof deskGroups)[number]

export const isDeskMessageGroup = (group: string | null | undefined): group is DeskMessageGroup =>
  deskMessageGroups.some((one) => one === group)
