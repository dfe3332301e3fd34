import type { ClientInput } from '#core/engine/commands/clientCommands.ts'

type ContactInput = ClientInput['contacts'][number]

const contact = (firstName: string, lastName: string, email: string | null, phone = ''): ContactInput => ({
  id: null,
  firstName,
  lastName,
  email,
  phone,
  isPrimary: true,
})

const plain = {
  zone: null,
  language: 'en',
  namedDates: [],
  tags: [],
  takesPromotional: true,
  isActive: true,
} as const

const simple = (firstName: string, lastName: string, email: string): ClientInput => ({
  ...plain,
  name: `${firstName} ${lastName}`,
  namedDates: [],
  tags: [],
  contacts: [contact(firstName, lastName, email)],
})

/** The demo's clients, hard cases first. All names and addresses are made up. */
export const clients: Readonly<Record<string, ClientInput>> = {
  // no first name
  hartung: { ...simple('', 'Hartung', 'hartung@spindelhof.example'), name: 'Hartung', tags: ['regular'] },
  // two contacts, one address each
  abendroth: {
    ...simple('Leonie', 'Abendroth', 'leonie@abendroth.example'),
    name: 'Familie Abendroth',
    contacts: [
      contact('Leonie', 'Abendroth', 'leonie@abendroth.example'),
      { ...contact('Jasper', 'Abendroth', 'jasper@abendroth.example'), isPrimary: false },
    ],
    tags: ['family'],
  },
  // no e-mail address at all
  quendel: {
    ...simple('Ottokar', 'Quendel', ''),
    contacts: [contact('Ottokar', 'Quendel', null, '+49 000 5550177')],
  },
  // lives in another zone
  okonjo: { ...simple('Jules', 'Okonjo-Marsh', 'jules@okonjomarsh.example'), zone: 'America/New_York' },
  // born on 29 February
  siltanen: {
    ...simple('Oona', 'Siltanen', 'oona@siltanen.example'),
    namedDates: [{ label: 'birthday', monthDay: '02-29', year: 1992 }],
  },
  // umlauts and a sharp s
  osswald: { ...simple('Henrike', 'Oßwald', 'henrike@osswald.example'), language: 'de' },
  // a very long name
  wieczorek: simple(
    'Tomasz Aleksander',
    'Wieczorek-Lindqvist von der Hohenwarte',
    'tomasz@wieczorek.example',
  ),
  // refused promotional mail
  brannagh: { ...simple('Fionnuala', 'Brannagh', 'fionnuala@brannagh.example'), takesPromotional: false },
  // a mailbox that refuses
  pfennig: simple('Ruprecht', 'Pfennigschmidt', 'ruprecht@closed-mailbox.example'),
  // a mailbox whose server loses the connection in the last moment
  dravec: simple('Milena', 'Dravec', 'milena@flaky-line.example'),
  // a client with letters of another script
  kovalenko: simple('Олена', 'Коваленко', 'olena@kovalenko.example'),
  // inactive
  vierling: { ...simple('Gundula', 'Vierling', 'gundula@vierling.example'), isActive: false },
  aldermoor: { ...simple('Percival', 'Aldermoor', 'percy@aldermoor.example'), tags: ['voucher'] },
  bexley: simple('Nadine', 'Bexley-Thornfield', 'nadine@bexley.example'),
  corvin: simple('Matthias', 'Corvinander', 'matthias@corvinander.example'),
  dunkelberg: { ...simple('Rosalie', 'Dunkelberg', 'rosalie@dunkelberg.example'), language: 'de' },
  estevao: { ...simple('Tibério', 'Estevão', 'tiberio@estevao.example'), zone: 'Atlantic/Azores' },
  fennimore: simple('Agatha', 'Fennimore', 'agatha@fennimore.example'),
  grashof: { ...simple('Wilhelmine', 'Grashof', 'mine@grashof.example'), language: 'de', tags: ['regular'] },
  hollister: simple('Cornelius', 'Hollisterby', 'cornelius@hollisterby.example'),
  ingram: simple('Yara', 'Ingramsson', 'yara@ingramsson.example'),
  jurgens: simple('Detlev', 'Jürgenshagen', 'detlev@juergenshagen.example'),
  kestrel: { ...simple('Imogen', 'Kestrelwood', 'imogen@kestrelwood.example'), tags: ['photographer'] },
  lavender: simple('Basil', 'Lavenderby', 'basil@lavenderby.example'),
  mondschein: { ...simple('Karoline', 'Mondschein', 'karoline@mondschein.example'), language: 'de' },
  nightingale: simple('Theodora', 'Nightingall', 'theo@nightingall.example'),
  pemberton: { ...simple('Alistair', 'Pembertone', 'alistair@pembertone.example'), tags: ['voucher'] },
  rosenkranz: simple('Elfriede', 'Rosenkranzer', 'elfriede@rosenkranzer.example'),
  sommerfeld: { ...simple('Bjarne', 'Sommerfeldt', 'bjarne@sommerfeldt.example'), tags: ['couple'] },
  tannenbaum: simple('Mathilda', 'Tannhäuserin', 'mathilda@tannhaeuserin.example'),
  abelard: simple('Crispin', 'Abelardson', 'crispin@abelardson.example'),
  birkholz: { ...simple('Irmgard', 'Birkholzer', 'irmgard@birkholzer.example'), language: 'de' },
  calloway: simple('Tamsin', 'Callowaye', 'tamsin@callowaye.example'),
  delacourt: { ...simple('Régine', 'Delacourtois', 'regine@delacourtois.example'), zone: 'Europe/Paris' },
  eberwein: { ...simple('Gottlob', 'Eberweiner', 'gottlob@eberweiner.example'), language: 'de' },
  fairweather: simple('Primrose', 'Fairweathers', 'primrose@fairweathers.example'),
  gallagher: simple('Declan', 'Gallaghan-Wray', 'declan@gallaghanwray.example'),
  haverkamp: { ...simple('Swantje', 'Haverkampff', 'swantje@haverkampff.example'), tags: ['regular'] },
  inselmann: simple('Friedhelm', 'Inselmanner', 'friedhelm@inselmanner.example'),
  jessamine: simple('Clementine', 'Jessaminer', 'clementine@jessaminer.example'),
  kronenberg: { ...simple('Adalbert', 'Kronenbergh', 'adalbert@kronenbergh.example'), tags: ['family'] },
  lindquist: {
    ...simple('Saga', 'Lindqvistdotter', 'saga@lindqvistdotter.example'),
    zone: 'Europe/Stockholm',
  },
  merriweather: simple('Barnaby', 'Merriwether', 'barnaby@merriwether.example'),
  norgaard: simple('Ditte', 'Norgaardsen', 'ditte@norgaardsen.example'),
  oberhauser: { ...simple('Kreszenz', 'Oberhauserin', 'kreszenz@oberhauserin.example'), language: 'de' },
  pilgrim: { ...simple('Ambrose', 'Pilgrimsby', 'ambrose@pilgrimsby.example'), tags: ['couple'] },
  quincey: simple('Verity', 'Quinceyworth', 'verity@quinceyworth.example'),
  rautenberg: simple('Hedwig', 'Rautenbergen', 'hedwig@rautenbergen.example'),
  stellamaris: simple('Ondina', 'Stellamarina', 'ondina@stellamarina.example'),
  thackeray: { ...simple('Lysander', 'Thackerby', 'lysander@thackerby.example'), tags: ['photographer'] },
  ullmann: simple('Balthasar', 'Ullmannsdorf', 'balthasar@ullmannsdorf.example'),
  vandermeer: { ...simple('Joost', 'van der Meerwijk', 'joost@meerwijk.example'), zone: 'Europe/Amsterdam' },
  whitlock: { ...simple('Sybil', 'Whitlocke', 'sybil@whitlocke.example'), tags: ['voucher'] },
  xaver: { ...simple('Xaver', 'Hinterwaldner', 'xaver@hinterwaldner.example'), language: 'de' },
  yarrow: simple('Isolde', 'Yarrowgate', 'isolde@yarrowgate.example'),
  zeidler: simple('Emmerich', 'Zeidlermann', 'emmerich@zeidlermann.example'),
  amberly: simple('Rufus', 'Amberleigh', 'rufus@amberleigh.example'),
  brockhaus: { ...simple('Mechthild', 'Brockhausen', 'mechthild@brockhausen.example'), language: 'de' },
  castellan: simple('Florentin', 'Castellaner', 'florentin@castellaner.example'),
  dornbusch: simple('Walpurga', 'Dornbuscher', 'walpurga@dornbuscher.example'),
  ellerby: { ...simple('Winifred', 'Ellerbyson', 'winifred@ellerbyson.example'), takesPromotional: false },
  farnham: simple('Osbert', 'Farnhamley', 'osbert@farnhamley.example'),
  gutenfels: { ...simple('Kunigunde', 'Gutenfelser', 'kunigunde@gutenfelser.example'), language: 'de' },
}
