import { endpoint, type Endpoint } from '../http/endpoint.ts'
import { ref } from '../work/ref.ts'
import { countNotices, follow, followers, lookAt, lookedAt, notices, unfollow } from './service.ts'

export const noticeEndpoints: readonly Endpoint[] = [
  endpoint('GET /notices', {
    role: 'viewer',
    summary: 'What others changed of what one follows or has, since one last looked.',
    answer: async (context) => ({ body: await notices(context.database, context) }),
  }),
  endpoint('GET /notices/count', {
    role: 'viewer',
    summary: 'How many items have something new.',
    answer: async (context) => ({ body: await countNotices(context.database, context) }),
  }),
  endpoint('POST /notices/looked', {
    role: 'viewer',
    summary: 'Remembers that one looked at items.',
    answer: async (context) => (await lookedAt(context.database, context, context.body.refs), {}),
  }),
  endpoint('GET /items/{code}/{number}/followers', {
    role: 'viewer',
    summary: 'Who hears of an item.',
    answer: async (context) => ({ body: await followers(context.database, context, ref(context)) }),
  }),
  endpoint('POST /items/{code}/{number}/followers', {
    role: 'viewer',
    summary: 'Makes somebody hear of an item.',
    answer: async (context) => ({
      body: await follow(context.database, context, ref(context), context.body.person),
    }),
  }),
  endpoint('DELETE /items/{code}/{number}/followers/{person}', {
    role: 'viewer',
    summary: 'Lets somebody hear no more of an item.',
    answer: async (context) => (
      await unfollow(context.database, context, ref(context), context.params.person),
      {}
    ),
  }),
  endpoint('POST /items/{code}/{number}/looked', {
    role: 'viewer',
    summary: 'Remembers that one looked at an item, and tells when one did so before.',
    answer: async (context) => ({ body: await lookAt(context.database, context, ref(context)) }),
  }),
]
