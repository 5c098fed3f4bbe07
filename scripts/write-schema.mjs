// Writes docs/schema/definitions.schema.json from the core's schema of the document.
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { register } from 'tsx/esm/api'
import { root } from './packages.mjs'

register()
const { DefinitionsDocument } = await import(
  join(root, 'core/src/definitions/document/document.ts')
)
writeFileSync(
  join(root, 'docs/schema/definitions.schema.json'),
  `${JSON.stringify({ $schema: 'https://json-schema.org/draft/2020-12/schema', ...DefinitionsDocument }, null, 2)}\n`,
)
