import { randomBytes, randomUUID } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import compression from 'compression'
import connectPgSimple from 'connect-pg-simple'
import express, { type Express, type NextFunction, type Request, type Response } from 'express'
import { ipKeyGenerator, rateLimit } from 'express-rate-limit'
import session from 'express-session'
import helmet from 'helmet'
import type { Pool } from 'pg'
import { pino, type Logger } from 'pino'
import { pinoHttp } from 'pino-http'
import type { Sequelize } from 'sequelize'
import { dashboardEndpoints } from './dashboards/routes.ts'
import { visibleProjects, type Person, type World, type Worlds } from './database/world.ts'
import { livingEndpoints } from './definitions/living.routes.ts'
import { definitionEndpoints } from './definitions/routes.ts'
import { judge, mount, openApi } from './http/endpoint.ts'
import { AttemptStore } from './http/limits.ts'
import { Problem } from './http/problem.ts'
import { keepable } from './http/text.ts'
import type { Live } from './live/stream.ts'
import { peopleEndpoints, SignIn } from './people/routes.ts'
import { signIn } from './people/session.ts'
import { queryEndpoints } from './queries/routes.ts'
import { viewEndpoints } from './views/routes.ts'
import { workEndpoints } from './work/routes.ts'

export interface Serving {
  readonly database: Sequelize
  readonly worlds: Worlds
  readonly sessions: Pool
  readonly live: Live
  readonly secret: string
  /** the folder of the built screens */
  readonly screens: string
  readonly clock: () => Date
  readonly logs: boolean
  /** sign-ins allowed a minute from one address */
  readonly signIns: number
  /** items that publishing rewrites at once; more are left to a job */
  readonly mapAtOnce?: number
}

export function makeApp(serving: Serving): Express {
  const { database, worlds, clock } = serving
  const logger = pino({ level: serving.logs ? 'info' : 'error', redact: ['req.headers.cookie', 'req.headers.authorization', 'res.headers["set-cookie"]'] })
  const app = express()
  app.disable('x-powered-by')
  app.set('trust proxy', 'loopback')
  app.use(pinoHttp({ logger, genReqId: () => randomUUID(), customLogLevel: () => 'info' }))
  secure(app)
  app.use(compression())
  app.use(express.json({ limit: '2mb' }), keepable)
  const PgSession = connectPgSimple(session)
  app.use(session({ store: new PgSession({ pool: serving.sessions, createTableIfMissing: false, pruneSessionInterval: false, disableTouch: true }), name: 'bluestem', secret: serving.secret, resave: false, saveUninitialized: false, rolling: false, cookie: { httpOnly: true, sameSite: 'lax', secure: 'auto', maxAge: 14 * 86_400_000 } }))
  app.use(sameOrigin)
  const context = async (request: Request): Promise<{ world: World; person: Person; now: Date }> => {
    const world = await worlds.now()
    const person = world.people.find((one) => one.number === request.session.person)
    if (!person) throw new Problem(401, 'Not signed in', 'Sign in first.')
    return { world, person, now: clock() }
  }
  signing(app, serving)
  const endpoints = [...peopleEndpoints(database), ...definitionEndpoints(database, serving.mapAtOnce), ...livingEndpoints(database), ...workEndpoints(database), ...queryEndpoints(database), ...viewEndpoints(database), ...dashboardEndpoints(database)]
  app.use('/api/v1/items', tooLong)
  mount(app, endpoints, context)
  app.get('/api/v1/openapi.json', (_, response) => { response.json(openApi(endpoints)) })
  app.get('/api/v1/live', async (request, response) => {
    const { person } = await context(request)
    serving.live.listen(request, response, async () => visibleProjects(await worlds.now(), person))
  })
  app.use('/api', () => { throw new Problem(404, 'Not found', 'There is no such resource.') })
  screens(app, serving.screens)
  app.use(failed(logger))
  return app
}

/** A strict content policy: everything from here, styles only with this response's nonce. */
function secure(app: Express): void {
  app.use((_, response, next) => {
    response.locals['nonce'] = randomBytes(16).toString('base64')
    next()
  })
  const self = `'self'`
  app.use(helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        'default-src': [`'none'`], 'script-src': [self], 'style-src': [self, (_, response) => `'nonce-${(response as Response).locals['nonce'] as string}'`], 'style-src-attr': [`'none'`], 'img-src': [self, 'data:'],
        'font-src': [self], 'connect-src': [self], 'manifest-src': [self], 'worker-src': [self], 'object-src': [`'none'`], 'base-uri': [`'none'`], 'frame-ancestors': [`'none'`], 'form-action': [self],
      },
    },
    crossOriginEmbedderPolicy: false, strictTransportSecurity: false,
  }))
}

/** A change may only come from a page of ours: browsers say from where. */
function sameOrigin(request: Request, _: Response, next: NextFunction): void {
  const origin = request.get('origin')
  if (['GET', 'HEAD', 'OPTIONS'].includes(request.method) || !origin) return next()
  if (new URL(origin).host !== request.get('host')) throw new Problem(403, 'Not allowed', 'Changes are only taken from Bluestem’s own pages.')
  next()
}

/** Filters longer than a line of HTTP should carry belong in a body. */
function tooLong(request: Request, _: Response, next: NextFunction): void {
  if (request.method === 'GET' && request.originalUrl.length > 8000) throw new Problem(414, 'Too long', 'This address is longer than 8,000 characters; send the same as JSON to POST /api/v1/items/search.')
  next()
}

function signing(app: Express, { database, signIns }: Serving): void {
  const limit = rateLimit({
    windowMs: 60_000, limit: signIns, standardHeaders: 'draft-8', legacyHeaders: false, store: new AttemptStore(database, 'sign-in '), keyGenerator: (request) => ipKeyGenerator(request.ip ?? ''),
    handler: () => { throw new Problem(429, 'Too many tries', 'Too many sign-ins from here; wait a minute.') },
  })
  app.post('/api/v1/session', limit, async (request, response) => {
    judge(SignIn, request.body)
    const { email, password } = request.body as { email: string; password: string }
    const person = await signIn(database, email, password)
    await new Promise<void>((done, failedTo) => request.session.regenerate((error) => (error ? failedTo(error as Error) : done())))
    request.session.person = person
    response.status(201).json({})
  })
  app.delete('/api/v1/session', async (request, response) => {
    await new Promise<void>((done, failedTo) => request.session.destroy((error) => (error ? failedTo(error as Error) : done())))
    response.clearCookie('bluestem').status(204).end()
  })
}

/** The built screens; every address that is not a file is the same page, which routes by itself. */
function screens(app: Express, folder: string): void {
  app.use('/assets', express.static(join(folder, 'assets'), { immutable: true, maxAge: '1y' }))
  app.use(express.static(folder, { index: false, maxAge: '1h' }))
  app.get('/{*path}', (_, response) => {
    const page = readFileSync(join(folder, 'index.html'), 'utf8').replaceAll('__CSP_NONCE__', response.locals['nonce'] as string)
    response.set('Cache-Control', 'no-store').type('html').send(page)
  })
}

/** Every failure as a problem document; a defect tells only the number of the request. */
function failed(logger: Logger) {
  return (error: unknown, request: Request, response: Response, next: NextFunction): void => {
    if (response.headersSent) return next(error)
    const known = error instanceof Problem ? error : fromParser(error)
    if (known) {
      response.status(known.status).type('application/problem+json').send(JSON.stringify({ type: 'about:blank', title: known.title, status: known.status, detail: known.message, ...(known.errors.length > 0 ? { errors: known.errors } : {}), ...known.more }))
      return
    }
    logger.error({ err: error, request: request.id }, 'a defect')
    response.status(500).type('application/problem+json').send(JSON.stringify({ type: 'about:blank', title: 'A defect', status: 500, detail: `Something went wrong here that should not. It is noted under ${String(request.id)}.`, request: request.id }))
  }
}

/** What the body parser refuses is the sender’s to mend. */
function fromParser(error: unknown): Problem | undefined {
  const { expose, status, type } = error as { expose?: boolean; status?: number; type?: string }
  if (!expose || status === undefined || status >= 500) return undefined
  return new Problem(status, 'Not readable', type === 'entity.too.large' ? 'The body is larger than 2 MB.' : 'The body is not JSON.')
}
