import { daysOf } from '../http/span.ts'
import { endpoint, type Endpoint } from '../http/endpoint.ts'
import { matchOf } from '../http/headers.ts'
import { statusBoards, unplacedStatuses } from './boards.ts'
import { countedProjects } from './describeDraft.ts'
import { keepersOf, setKeepers } from './keepers.ts'
import { usageCounted } from './recentUsage.ts'
import { previewScore } from './scores.ts'
import { lastChanged, movesMade } from './usage.ts'

export const definitionEndpoints: readonly Endpoint[] = [
  endpoint('GET /definitions/usage', {
    role: 'viewer',
    summary:
      'How much everything defined is used, when it was last, and which edition changed it last.',
    answer: async (context) => {
      const { value, at } = await usageCounted(
        context.database,
        context.world,
        countedProjects(context),
        {
          optionsOf: context.query['options'] ? [context.query['options']] : [],
        },
      )
      return {
        body: {
          ...value,
          countedAgo: Math.round((Date.now() - at.getTime()) / 1000),
          changed: await lastChanged(context.database),
        },
      }
    },
  }),
  endpoint('GET /definitions/moves/{type}', {
    role: 'viewer',
    summary: 'How often each move of a type was made in the last days.',
    answer: async (context) => ({
      body: {
        moves: await movesMade(
          context.database,
          context.world,
          countedProjects(context),
          context.params.type,
          new Date(context.now.getTime() - daysOf(context.query, 90) * 86_400_000),
        ),
      },
    }),
  }),
  endpoint('GET /definitions/boards', {
    role: 'viewer',
    summary: 'The boards whose columns are statuses, and the statuses no shared board shows.',
    answer: async (context) => ({
      body: {
        boards: await statusBoards(context.database, context),
        unplaced: await unplacedStatuses(context.database, context),
      },
    }),
  }),
  endpoint('POST /definitions/scores/preview', {
    role: 'viewer',
    summary: 'The order a score would give to open work.',
    answer: async (context) => ({
      body: await previewScore(context.database, context, context.body),
    }),
  }),
  endpoint('GET /definitions/rulebooks/{id}/keepers', {
    role: 'viewer',
    summary: 'Who keeps a rulebook.',
    answer: async (context) => await keepersOf(context.database, context, context.params.id),
  }),
  endpoint('PATCH /definitions/rulebooks/{id}/keepers', {
    role: 'administrator',
    summary: 'Sets who keeps a rulebook.',
    answer: async (context) =>
      await setKeepers(
        context.database,
        context,
        context.params.id,
        context.body.keepers,
        matchOf(context.request),
      ),
  }),
]
