import type { Endpoint } from './endpoint.ts'

/** The OpenAPI document of all endpoints; schemas are the ones requests are judged by. */
export function openApi(endpoints: readonly Endpoint[]): object {
  const paths: Record<string, Record<string, unknown>> = {}
  const problem = {
    description: 'What is wrong (RFC 9457)',
    content: { 'application/problem+json': { schema: { type: 'object' } } },
  }
  for (const { method, path, role, summary, body } of endpoints) {
    const parameters = [...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({
      name,
      in: 'path',
      required: true,
      schema: { type: 'string' },
    }))
    paths[path] = {
      ...paths[path],
      [method]: {
        summary,
        operationId: `${method}${path.replaceAll(/[^a-zA-Z]+(\w?)/g, (_, letter: string) => letter.toUpperCase())}`,
        description: `Takes the role ${role}.`,
        tags: [path.split('/')[3] ?? 'session'],
        ...(parameters.length > 0 ? { parameters } : {}),
        ...(body
          ? { requestBody: { required: true, content: { 'application/json': { schema: body } } } }
          : {}),
        responses: { '200': { description: 'Done' }, '4XX': problem },
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
