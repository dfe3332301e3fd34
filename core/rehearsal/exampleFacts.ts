import { actUrlsBy, clientActPaths } from '../model/clientAct.ts'
import type { MergeFacts } from '../letters/fields.ts'
import { primaryContact } from '../model/client.ts'
import { realZones } from '../time/realZones.ts'
import {
  at,
  exampleBooking,
  exampleBusiness,
  exampleClient,
  examplePerson,
  exampleService,
} from './exampleBusiness.ts'

const moment = (local: string) => at(realZones, exampleBusiness.zone, local)

/** What a letter of the example business is filled from, the evening before a lesson. */
export const exampleFacts: MergeFacts = {
  business: exampleBusiness,
  client: exampleClient,
  contact: primaryContact(exampleClient),
  booking: exampleBooking(moment('2026-05-16 19:00'), moment('2026-05-14 07:40')),
  service: exampleService,
  personInCharge: examplePerson,
  enquiry: null,
  invoice: null,
  progress: [],
  runStartedAt: moment('2026-05-14 07:40'),
  optOutUrl: 'https://kiteworks.example/choose/1',
  bookingUrl: 'https://thistledown.example/yours/bk_1.abc',
  actUrls: actUrlsBy((act) => `https://thistledown.example/yours/bk_1.${act}/${clientActPaths[act]}`),
  payUrl: 'https://kiteworks.example/pay/in_1',
  allUrl: 'https://kiteworks.example/all/1',
  toSign: [],
  zone: realZones.zone('Europe/Berlin'),
  readerZone: null,
  sendingAt: moment('2026-05-15 18:00'),
}
