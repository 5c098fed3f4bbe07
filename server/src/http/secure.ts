import { asText } from '@bluestem/core/known'
import { randomBytes } from 'node:crypto'
import type { Express, Response } from 'express'
import helmet from 'helmet'

/** A strict content policy: everything from here, styles only with this response's nonce. */
export function secure(app: Express): void {
  app.use((_, response, next) => {
    response.locals['nonce'] = randomBytes(16).toString('base64')
    next()
  })
  const self = `'self'`
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          'default-src': [`'none'`],
          'script-src': [self],
          'style-src': [
            self,
            // Helmet types the response as Node’s; here it is Express’s.
            (_, response) => `'nonce-${asText((response as Response).locals['nonce'])}'`,
          ],
          'style-src-attr': [`'none'`],
          'img-src': [self, 'data:'],
          'font-src': [self],
          'connect-src': [self],
          'manifest-src': [self],
          'worker-src': [self],
          'object-src': [`'none'`],
          'base-uri': [`'none'`],
          'frame-ancestors': [`'none'`],
          'form-action': [self],
        },
      },
      crossOriginEmbedderPolicy: false,
      strictTransportSecurity: false,
    }),
  )
}
