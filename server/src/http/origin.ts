import type { NextFunction, Request, RequestHandler, Response } from 'express'
import { Problem } from '../problems/problem.ts'

const loopback = /^(?:localhost|127(?:\.\d{1,3}){3}|\[::1\])(?::\d{1,5})?$/i

const refuse = (): Problem =>
  new Problem(403, 'Not allowed', 'Changes are only taken from Bluestem’s own pages.')

/**
 * Lets in only what is meant for us and comes from our own pages. A browser says where a request comes from, by `Origin` or else
 * by `Sec-Fetch-Site` (Fetch Metadata, W3C); a program that says neither has no page that could have been tricked.
 *
 * @param address where people reach this server, such as `https://work.example`; without one, names of the loopback are taken
 */
export function ownPages(address: string | undefined): RequestHandler {
  const own = address === undefined ? undefined : new URL(address)
  return (request: Request, _: Response, next: NextFunction): void => {
    const host = request.get('host') ?? ''
    if (own ? host !== own.host : !loopback.test(host))
      throw new Problem(
        421,
        'Not here',
        'This server does not answer under that name; its address is a setting.',
      )
    if (['GET', 'HEAD', 'OPTIONS'].includes(request.method)) return next()
    const [origin, site] = [request.get('origin'), request.get('sec-fetch-site')]
    if (
      origin !== undefined
        ? origin !== (own?.origin ?? `http://${host}`)
        : site !== undefined && site !== 'same-origin' && site !== 'none'
    )
      throw refuse()
    next()
  }
}

/** Where the application answers whoever asks, for the addresses it tells. */
export const originOf = (request: Request): string =>
  `${request.protocol}://${request.get('host') ?? 'localhost'}`
