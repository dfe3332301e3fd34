/** The hours a step gets where nobody has set one: before the event, after it, and where it is not to wait for the evening. */
export const usualTime = { before: '18:00', after: '10:00', early: '09:00' } as const
