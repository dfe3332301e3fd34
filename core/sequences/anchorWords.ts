import type { Anchor } from '../model/timing.ts'

/** An anchor as people say it. */
export function anchorWords(anchor: Anchor): string {
  switch (anchor.of) {
    case 'booking made':
      return 'the moment of booking'
    case 'booking start':
      return 'the start of the booking'
    case 'booking end':
      return 'the end of the booking'
    case 'booking status':
      return `the moment it became ${anchor.status}`
    case 'booking own status':
      return `the moment it became “${anchor.status}”`
    case 'booking moved':
      return 'the last move of the booking'
    case 'enquiry received':
      return 'the moment the enquiry came'
    case 'enquiry stage':
      return `the entry into “${anchor.stage}”`
    case 'enquiry wished date':
      return 'the date wished for'
    case 'enquiry deadline':
      return 'the deadline'
    case 'invoice issued':
      return 'the issue of the invoice'
    case 'invoice due':
      return 'the due date'
    case 'invoice paid':
      return 'the payment'
    case 'list joined':
      return `joining the list “${anchor.list}”`
    case 'tag added':
      return `the tag “${anchor.tag}”`
    case 'date stamped':
      return `the date stamped “${anchor.label}”`
    case 'run started':
      return 'the start of the sequence'
  }
}
