import { randomUUID } from 'node:crypto'
import compression from 'compression'
import express, { type Express } from 'express'
import helmet from 'helmet'
import type { Logger } from 'pino'
import { fileEndpoints } from '#core/api/fileEndpoints.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { askRoutes } from '../routes/ask.ts'
import { bookRoutes } from '../routes/book.ts'
import { calendarBody, calendarRoutes } from '../routes/calendar.ts'
import { signRoutes } from '../routes/sign.ts'
import { sentMailRoutes } from '../routes/sentMail.ts'
import { tableBody, tableRoutes } from '../routes/tables.ts'
import { bookingRoutes } from '../routes/bookings.ts'
import { enquiryRoutes } from '../routes/enquiries.ts'
import { documentRoutes } from '../routes/documents.ts'
import { formRoutes } from '../routes/forms.ts'
import { moveRoutes } from '../routes/moves.ts'
import { changeRoutes } from '../routes/changes.ts'
import { clientRoutes } from '../routes/clients.ts'
import { frameRoutes } from '../routes/frame.ts'
import { incomingRoutes } from '../routes/incoming.ts'
import { keyRoutes } from '../routes/keys.ts'
import { letterRoutes } from '../routes/letters.ts'
import { webCallRoutes } from '../routes/webCalls.ts'
import { sequenceRoutes } from '../routes/sequences.ts'
import { actRoutes } from '../routes/acts.ts'
import { recordActs } from '../record/recordActs.ts'
import { backupRoutes } from '../routes/backups.ts'
import { incomingMailboxRoutes } from '../routes/incomingMailboxes.ts'
import { mailAccountRoutes } from '../routes/mailAccount.ts'
import { settingsRoutes } from '../routes/settings.ts'
import { mailboxRoutes } from '../routes/mailboxes.ts'
import { followedRoutes } from '../routes/followed.ts'
import { optOutRoutes } from '../routes/optOut.ts'
import { payRoutes, payTold } from '../routes/pay.ts'
import { yoursRoutes } from '../routes/yours.ts'
import { aheadRoutes } from '../routes/ahead.ts'
import { deskRoutes } from '../routes/desk.ts'
import { secondFactorRoutes } from '../routes/secondFactors.ts'
import { teamRoutes } from '../routes/team.ts'
import { outRoutes } from '../routes/out.ts'
import { healthRoutes } from '../routes/health.ts'
import { feedRoutes } from '../routes/feeds.ts'
import { findRoutes } from '../routes/find.ts'
import { messageFileRoutes, sourceKeepingRoutes } from '../routes/messageFiles.ts'
import { messageRoutes } from '../routes/messages.ts'
import { ownSessionRoutes, sessionRoutes } from '../routes/session.ts'
import { openOnceSetUp } from '../clientPages/openOnceSetUp.ts'
import { builtFiles } from './builtFiles.ts'
import { checkHost, ofSignedIn } from './doors.ts'
import { limitByKey, limitOfClientPages, limitWrongKeys } from './rateLimits.ts'
import { openApiDocument } from './openApi.ts'
import { give } from '../routes/route.ts'
import { testLinkRoutes } from '../routes/testLinks.ts'
import { answerFaults, Refusal } from './problems.ts'

const contentSecurity = {
  directives: {
    defaultSrc: ["'self'"],
    scriptSrc: ["'self'"],
    styleSrc: ["'self'", "'unsafe-inline'"],
    imgSrc: ["'self'", 'data:', 'blob:'],
    fontSrc: ["'self'"],
    connectSrc: ["'self'"],
    frameSrc: ["'self'"],
    frameAncestors: ["'self'"],
    objectSrc: ["'none'"],
    baseUri: ["'self'"],
    formAction: ["'self'"],
    upgradeInsecureRequests: null,
  },
}

/** What is sent is read: files, calendars and tables of those who are signed in may be long. */
function readBodies(app: Express, { application }: RunningApplication) {
  const { statements } = application.store
  app.use('/api/files', ofSignedIn(statements, express.json({ limit: '4mb' })))
  app.use('/api/calendar', ofSignedIn(statements, calendarBody))
  app.use('/api/tables', ofSignedIn(statements, tableBody))
  app.use('/api/mail-files', ofSignedIn(statements, tableBody))
  app.use('/api/sent-mail', ofSignedIn(statements, tableBody))
  app.use(express.json({ limit: '1mb' }))
}

/** Who gets in, and how; from here on what is done is written down. */
function teamSessionRoutes(app: Express, running: RunningApplication) {
  app.use('/api', limitByKey(), limitWrongKeys())
  app.use('/api', recordActs(running.record, running.application.store.statements))
  sessionRoutes(app, running)
  ownSessionRoutes(app, running)
  secondFactorRoutes(app, running)
  teamRoutes(app, running)
  keyRoutes(app, running)
  webCallRoutes(app, running)
}

/** What concerns the house itself: its mail account, its backups, everything out, who did what. */
function houseRoutes(app: Express, running: RunningApplication) {
  mailAccountRoutes(app, running)
  incomingMailboxRoutes(app, running)
  backupRoutes(app, running)
  outRoutes(app, running)
  actRoutes(app, running)
  healthRoutes(app, running)
}

/** What clients see without signing in; while there is no business yet, that it is not open. */
function clientPageRoutes(app: Express, running: RunningApplication) {
  const byLinks = ['/choose', '/yours', '/all', '/pay', '/sign', '/feed']
  // A mail program asks for the links of many from one address.
  const noticed = ['/to', '/seen']
  app.use(noticed, limitOfClientPages(1200))
  app.use(byLinks, limitOfClientPages(60))
  app.use(['/book', '/ask'], limitOfClientPages(300))
  app.use([...byLinks, ...noticed, '/book', '/ask'], openOnceSetUp(running))
  feedRoutes(app, running)
  bookRoutes(app, running)
  askRoutes(app, running)
  optOutRoutes(app, running)
  followedRoutes(app, running)
  yoursRoutes(app, running)
  payRoutes(app, running)
  signRoutes(app, running)
  testLinkRoutes(app, running)
}

/** The whole HTTP side: the interface's files, the API, and an answer for everything else. */
export function createApp(running: RunningApplication, log: Logger): Express {
  const app = express()
  app.disable('x-powered-by')
  app.set('etag', false)
  // Only a proxy that was named is believed who it speaks for.
  app.set('trust proxy', running.proxy ?? false)
  app.use((request, _, next) => {
    request.headers['x-request-id'] = randomUUID()
    next()
  })
  app.use(checkHost(running.publicUrl))
  app.use(compression())
  app.use(helmet({ contentSecurityPolicy: contentSecurity, strictTransportSecurity: false }))
  app.use('/api', (_, response, next) => {
    response.set('Cache-Control', 'no-store')
    next()
  })
  app.use('/hooks/payments', limitOfClientPages(300), payTold)
  readBodies(app, running)
  teamSessionRoutes(app, running)
  frameRoutes(app, running)
  bookingRoutes(app, running)
  enquiryRoutes(app, running)
  moveRoutes(app, running)
  documentRoutes(app, running)
  formRoutes(app, running)
  calendarRoutes(app, running)
  tableRoutes(app, running)
  sentMailRoutes(app, running)
  clientRoutes(app, running)
  deskRoutes(app, running)
  incomingRoutes(app, running)
  findRoutes(app, running)
  messageFileRoutes(app, running)
  sourceKeepingRoutes(app, running)
  aheadRoutes(app, running)
  messageRoutes(app, running)
  mailboxRoutes(app, running)
  letterRoutes(app, running)
  sequenceRoutes(app, running)
  settingsRoutes(app, running)
  houseRoutes(app, running)
  clientPageRoutes(app, running)
  changeRoutes(app, running)
  give(app, running.application.store.statements, fileEndpoints.openApi, ({ response }) => {
    response.json(openApiDocument())
  })
  app.all('/api/{*path}', (request) => {
    throw new Refusal('not found', `There is nothing at ${request.method} ${request.path}.`)
  })
  builtFiles(app)
  app.all('/{*path}', (request) => {
    throw new Refusal('not found', `There is nothing at ${request.method} ${request.path}.`)
  })
  app.use(answerFaults(log))
  return app
}
