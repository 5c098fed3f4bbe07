import { type Logger, pino } from 'pino'

/** The log: errors always, requests and warnings where they are asked for; who is signed in by which cookie is never in it. */
export const loggerFor = (all: boolean): Logger =>
  pino({
    level: all ? 'info' : 'error',
    redact: ['req.headers.cookie', 'req.headers.authorization', 'res.headers["set-cookie"]'],
  })
