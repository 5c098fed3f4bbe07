import type { Contract } from '@bluestem/core/schema'
import type { TSchema } from 'typebox'
import type { Endpoint } from './endpoint.ts'

/** The OpenAPI document of all endpoints; schemas are the ones requests are judged by. */
export function openApi(endpoints: readonly Endpoint[]): object {
  const paths: Record<string, Record<string, unknown>> = {}
  const problem = {
    description: 'What is wrong (RFC 9457)',
    content: { 'application/problem+json': { schema: { type: 'object' } } },
  }
  for (const { method, path, role, summary, contract } of endpoints) {
    const address = `/api/v1${path}`
    const parameters = [
      ...pathParameters(path),
      ...queryParameters(contract),
      ...(contract.mayBeMinimal ? [preference] : []),
    ]
    paths[address] = {
      ...paths[address],
      [method]: {
        summary,
        operationId: `${method}${address.replaceAll(/[^a-zA-Z]+(\w?)/g, (_, letter: string) => letter.toUpperCase())}`,
        description: `Takes the role ${role}.`,
        tags: [path.split('/')[1] ?? 'session'],
        ...(parameters.length > 0 ? { parameters } : {}),
        ...(contract.body ? { requestBody: { required: true, content: json(contract.body) } } : {}),
        responses: {
          ...(contract.answer
            ? { '2XX': { description: 'What is told', content: json(contract.answer) } }
            : {}),
          ...(contract.answer && !contract.mayBeMinimal ? {} : { '204': { description: 'Done' } }),
          '4XX': problem,
        },
      },
    }
  }
  return {
    openapi: '3.1.1',
    info: { title: 'Bluestem', version: '1', license: { name: 'MIT', identifier: 'MIT' } },
    servers: [{ url: '/' }],
    paths,
    security: [{ session: [] }],
    components: {
      securitySchemes: { session: { type: 'apiKey', in: 'cookie', name: 'bluestem' } },
    },
  }
}

/** Whether what became of a change is told. */
const preference = {
  name: 'Prefer',
  in: 'header',
  description: '`return=minimal` answers without a body (RFC 7240).',
  schema: { type: 'string' },
}

const json = (schema: TSchema): object => ({ 'application/json': { schema } })

const pathParameters = (path: string): object[] =>
  [...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({
    name,
    in: 'path',
    required: true,
    schema: { type: 'string' },
  }))

function queryParameters({ query }: Contract): object[] {
  // The schema of a query is that of an object, by the contract.
  const { properties = {} } = (query ?? {}) as { properties?: Readonly<Record<string, TSchema>> }
  return Object.entries(properties).map(([name, schema]) => ({ name, in: 'query', schema }))
}
