import { asText, isRecord } from '@bluestem/core/known'
import type { ActorContext } from './workspace/actor.ts'
import { type Endpoint, mount } from './http/endpoint.ts'
import { randomUUID } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import compression from 'compression'
import connectPgSimple from 'connect-pg-simple'
import express, {
  type Express,
  type NextFunction,
  type Request,
  type RequestHandler,
  type Response,
} from 'express'
import session from 'express-session'
import type { Pool } from 'pg'
import type { Logger } from 'pino'
import { pinoHttp } from 'pino-http'
import type { Sequelize } from 'sequelize'
import { dashboardEndpoints } from './dashboards/routes.ts'
import { problemOf } from './problems/failure.ts'
import type { Worlds } from './workspace/world.ts'
import { seenBy } from './workspace/visibility.ts'
import { labelEndpoints } from './labels/routes.ts'
import { mergeEndpoints } from './merges/routes.ts'
import { componentEndpoints } from './components/routes.ts'
import { calendarEndpoints } from './calendars/routes.ts'
import { teamEndpoints } from './teams/routes.ts'
import { projectEndpoints } from './projects/routes.ts'
import { templateEndpoints } from './templates/routes.ts'
import { auditEndpoints } from './audit/routes.ts'
import { jobEndpoints } from './jobs/routes.ts'
import { draftEndpoints, publishEndpoint } from './definitions/drafts.routes.ts'
import { editionEndpoints } from './definitions/editions.routes.ts'
import { definitionEndpoints } from './definitions/routes.ts'
import { readBody } from './http/body.ts'
import { openApi } from './http/openApi.ts'
import { writeLimit } from './http/limits.ts'
import { WorldAhead } from './http/worldAhead.ts'
import { ownPages } from './http/origin.ts'
import { Problem } from './problems/problem.ts'
import { keepable } from './http/text.ts'
import type { Live } from './live/stream.ts'
import { type DirectoryFiles, directoryEndpoints } from './directory/routes.ts'
import { peopleEndpoints } from './people/routes.ts'
import { signing } from './people/signing.ts'
import { queryEndpoints } from './queries/routes.ts'
import { viewEndpoints } from './views/routes.ts'
import { secure } from './http/secure.ts'
import { exchangeEndpoints } from './exchange/routes.ts'
import { readable, withoutSecret } from './exchange/subscriptions.ts'
import { iterationEndpoints } from './iterations/routes.ts'
import { releaseEndpoints } from './releases/routes.ts'
import { treeEndpoints } from './tree/routes.ts'
import { noticeEndpoints } from './notices/routes.ts'
import { jotEndpoints } from './jots/routes.ts'
import { binEndpoints } from './bin/routes.ts'
import { bulkEndpoints } from './bulk/routes.ts'
import { workEndpoints } from './work/routes.ts'

export interface Serving extends DirectoryFiles {
  readonly database: Sequelize
  readonly worlds: Worlds
  readonly sessions: Pool
  readonly live: Live
  readonly secret: string
  /** the folder of the built screens */
  readonly screens: string
  readonly clock: () => Date
  readonly logger: Logger
  /** sign-ins allowed a minute from one address */
  readonly signIns: number
  /** changes allowed a minute to one person */
  readonly writes: number
  /** where people reach this server, such as https://work.example; names of the loopback where it is left out */
  readonly address?: string
  /** addresses of the proxies that are believed about whom they pass on */
  readonly proxies?: readonly string[]
  /** whether every answer is judged by its contract, as in tests */
  readonly judgeAnswers?: boolean
  /** items that publishing rewrites at once; more are left to a job */
  readonly mapAtOnce?: number
}

/** Every endpoint, in the order in which the document of the API tells them. */
const endpointsOf = (serving: Serving): readonly Endpoint[] => [
  ...peopleEndpoints,
  ...directoryEndpoints(serving),
  ...auditEndpoints,
  ...jobEndpoints,
  ...definitionEndpoints,
  ...editionEndpoints,
  ...draftEndpoints,
  publishEndpoint(serving.mapAtOnce),
  ...labelEndpoints,
  ...mergeEndpoints,
  ...componentEndpoints,
  ...calendarEndpoints,
  ...teamEndpoints,
  ...projectEndpoints,
  ...templateEndpoints,
  ...bulkEndpoints,
  ...iterationEndpoints,
  ...releaseEndpoints,
  ...treeEndpoints,
  ...noticeEndpoints,
  ...jotEndpoints,
  ...binEndpoints,
  ...exchangeEndpoints,
  ...workEndpoints,
  ...queryEndpoints,
  ...viewEndpoints,
  ...dashboardEndpoints,
]

/** Who is signed in, in the world as they may know it. @throws Problem 401 for nobody */
const actorOf =
  (ahead: WorldAhead, clock: Serving['clock']) =>
  async (request: Request): Promise<ActorContext> => {
    const world = await ahead.take(request)
    const person = world.people.find(
      (entry) => entry.number === request.session.person && entry.active,
    )
    if (!person) throw new Problem(401, 'Not signed in', 'Sign in first.')
    return { world: seenBy(world, person), person, now: clock() }
  }

function sessionsOf({ sessions, secret }: Serving): RequestHandler {
  const PgSession = connectPgSimple(session)
  return session({
    store: new PgSession({
      pool: sessions,
      createTableIfMissing: false,
      pruneSessionInterval: false,
      disableTouch: true,
    }),
    name: 'bluestem',
    secret,
    resave: false,
    saveUninitialized: false,
    rolling: false,
    cookie: { httpOnly: true, sameSite: 'lax', secure: 'auto', maxAge: 14 * 86_400_000 },
  })
}

/** The application: what every request passes, the endpoints, and the screens. */
export function makeApp(serving: Serving): Express {
  const { logger } = serving
  const app = express()
  app.disable('x-powered-by')
  // An ETag is the version of what is told, never a digest of the answer.
  app.set('etag', false)
  app.set('trust proxy', [...(serving.proxies ?? [])])
  app.use(
    pinoHttp({
      logger,
      genReqId: () => randomUUID(),
      customLogLevel: () => 'info',
      serializers: {
        req: (request: { url: string }) => ({ ...request, url: withoutSecret(request.url) }),
      },
    }),
  )
  secure(app)
  app.use(ownPages(serving.address))
  app.use(compression())
  app.use(...readBody, keepable)
  app.use(sessionsOf(serving))
  api(app, serving)
  readable(app, serving)
  screens(app, serving.screens)
  app.use(failed(logger))
  return app
}

function api(app: Express, serving: Serving): void {
  const { database } = serving
  const endpoints = endpointsOf(serving)
  const ahead = new WorldAhead(serving.worlds)
  const actor = actorOf(ahead, serving.clock)
  app.use('/api', (_, response, next) => {
    response.setHeader('Cache-Control', 'no-store')
    next()
  })
  app.use('/api', ahead.begin, writeLimit(database, serving.writes))
  signing(app, serving)
  app.use('/api/v1/items', tooLong)
  mount(app, database, endpoints, actor, serving.judgeAnswers ?? false)
  app.get('/api/v1/openapi.json', (_, response) => {
    response.json(openApi(endpoints))
  })
  app.get('/api/v1/live', async (request, response) => {
    const { person } = await actor(request)
    await serving.live.listen(request, response, {
      person: person.number,
      session: request.sessionID,
    })
  })
  app.use('/api', () => {
    throw new Problem(404, 'Not found', 'There is no such resource.')
  })
}

/** Filters longer than a line of HTTP should carry belong in a body. */
function tooLong(request: Request, _: Response, next: NextFunction): void {
  if (request.method === 'GET' && request.originalUrl.length > 8000)
    throw new Problem(
      414,
      'Too long',
      'This address is longer than 8,000 characters; send the same as JSON to POST /api/v1/items/search.',
    )
  next()
}

/** The built screens; every address that is not a file is the same page, which routes by itself. */
function screens(app: Express, folder: string): void {
  const page = (_: Request, response: Response): void => {
    const text = readFileSync(join(folder, 'index.html'), 'utf8').replaceAll(
      '__CSP_NONCE__',
      asText(response.locals['nonce']),
    )
    response.set('Cache-Control', 'no-store').type('html').send(text)
  }
  // By its own name too: the file holds a place for the nonce, which only this fills.
  app.get('/index.html', page)
  app.use('/assets', express.static(join(folder, 'assets'), { immutable: true, maxAge: '1y' }))
  app.use(express.static(folder, { index: false, maxAge: '1h' }))
  app.get('/{*path}', page)
}

/** Every failure as a problem document; a defect tells only the number of the request. */
function failed(logger: Logger) {
  return (error: unknown, request: Request, response: Response, next: NextFunction): void => {
    if (response.headersSent) return next(error)
    const known = problemOf(error) ?? fromParser(error)
    response.setHeader('Cache-Control', 'no-store')
    if (known) {
      if (known.retryAfter !== undefined) response.setHeader('Retry-After', known.retryAfter)
      response
        .status(known.status)
        .type('application/problem+json')
        .send(
          JSON.stringify({
            type: 'about:blank',
            title: known.title,
            status: known.status,
            detail: known.message,
            ...(known.errors.length > 0 ? { errors: known.errors } : {}),
            ...known.more,
          }),
        )
      return
    }
    logger.error({ err: error, request: request.id }, 'a defect')
    response
      .status(500)
      .type('application/problem+json')
      .send(
        JSON.stringify({
          type: 'about:blank',
          title: 'A defect',
          status: 500,
          detail: `Something went wrong here that should not. It is noted under ${asText(request.id)}.`,
          request: request.id,
        }),
      )
  }
}

/** What the body parser refuses is the sender’s to mend. */
function fromParser(error: unknown): Problem | undefined {
  const { expose, status, type } = isRecord(error) ? error : {}
  if (expose !== true || typeof status !== 'number' || status >= 500) return undefined
  return new Problem(
    status,
    'Not readable',
    type === 'entity.too.large'
      ? 'The body is larger than 1 MB (20 MB for a file of definitions).'
      : 'The body is not JSON.',
  )
}
