/** The sections of the interface, in the order of the line at the top. */
export const sections = [
  { to: '/desk', word: 'Desk' },
  { to: '/ahead', word: 'Ahead' },
  { to: '/bookings', word: 'Bookings' },
  { to: '/clients', word: 'Clients' },
  { to: '/pipeline', word: 'Pipeline' },
  { to: '/sequences', word: 'Sequences' },
  { to: '/letters', word: 'Letters' },
  { to: '/set-up', word: 'Set-up' },
]
