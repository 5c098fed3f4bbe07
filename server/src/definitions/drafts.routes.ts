import { daysOf } from '../http/span.ts'
import { endpoint, type Endpoint } from '../http/endpoint.ts'
import { matchOf } from '../http/headers.ts'
import { droppedDrafts, dropDraft, takeBackDraft } from './droppedDrafts.ts'
import { drafts, impactOf, makeDraft, propose, readDraft } from './drafts.ts'
import { editDraft, undoChange } from './editDraft.ts'
import { rebaseDraft } from './rebaseDraft.ts'
import { publish } from './publish.ts'
import { publishLater } from './publishLater.ts'
import { replayDraft } from './replay.ts'

export const draftEndpoints: readonly Endpoint[] = [
  endpoint('GET /definitions/drafts', {
    role: 'viewer',
    summary: 'The open drafts.',
    answer: async (context) => ({ body: await drafts(context.database, context) }),
  }),
  endpoint('GET /definitions/dropped-drafts', {
    role: 'member',
    summary: 'The drafts that were dropped in the last 30 days.',
    answer: async (context) => ({ body: await droppedDrafts(context.database, context) }),
  }),
  endpoint('POST /definitions/dropped-drafts/{id}/take-back', {
    role: 'member',
    summary: 'Takes a dropped draft back, as it was.',
    answer: async (context) => await takeBackDraft(context.database, context, context.params.id),
  }),
  endpoint('POST /definitions/drafts', {
    role: 'member',
    summary: 'Opens a draft.',
    answer: async (context) => {
      return { status: 201, ...(await makeDraft(context.database, context, context.body)) }
    },
  }),
  endpoint('POST /definitions/proposals', {
    role: 'member',
    summary: 'Proposes a change, which waits in a draft for those who may publish it.',
    answer: async (context) => {
      const { title: named, edits: wished } = context.body
      return { status: 201, ...(await propose(context.database, context, named, wished)) }
    },
  }),
  endpoint('GET /definitions/drafts/{id}', {
    role: 'viewer',
    summary: 'A draft with its changes in words.',
    answer: async (context) => await readDraft(context.database, context, context.params.id),
  }),
  endpoint('PATCH /definitions/drafts/{id}', {
    role: 'member',
    summary: 'Adds edits to a draft, answers what it must context, and places statuses on boards.',
    answer: async (context) =>
      await editDraft(
        context.database,
        context,
        context.params.id,
        context.body,
        matchOf(context.request),
      ),
  }),
  endpoint('DELETE /definitions/drafts/{id}', {
    role: 'member',
    summary: 'Drops a draft.',
    answer: async (context) => (
      await dropDraft(context.database, context, context.params.id, matchOf(context.request)),
      {}
    ),
  }),
  endpoint('POST /definitions/drafts/{id}/rebase', {
    role: 'member',
    summary: 'Puts a draft on the current edition, with what clashes decided.',
    answer: async (context) =>
      await rebaseDraft(
        context.database,
        context,
        context.params.id,
        context.body.choices,
        matchOf(context.request),
      ),
  }),
  endpoint('DELETE /definitions/drafts/{id}/changes/{change}', {
    role: 'member',
    summary: 'Undoes one change of a draft.',
    answer: async (context) =>
      await undoChange(
        context.database,
        context,
        context.params.id,
        context.params.change,
        matchOf(context.request),
      ),
  }),
  endpoint('GET /definitions/drafts/{id}/impact', {
    role: 'viewer',
    summary: 'What a draft touches, and what it must context.',
    answer: async (context) => ({
      body: await impactOf(context.database, context, context.params.id),
    }),
  }),
  endpoint('GET /definitions/drafts/{id}/replay', {
    role: 'viewer',
    summary: 'What a draft would have done to the moves of the last days.',
    answer: async (context) => ({
      body: await replayDraft(
        context.database,
        context,
        context.params.id,
        daysOf(context.query, 365),
      ),
    }),
  }),
]

/** @param mapAtOnce items that publishing rewrites at once; more are left to a job */
export const publishEndpoint = (mapAtOnce: number | undefined): Endpoint =>
  endpoint('POST /definitions/drafts/{id}/publish', {
    role: 'member',
    timeout: 90_000,
    summary: 'Publishes a draft as the next edition, now or at a set time.',
    answer: async (context) => {
      const { note = '', at } = context.body
      const publishing = {
        note,
        match: matchOf(context.request),
        ...(mapAtOnce === undefined ? {} : { most: mapAtOnce }),
      }
      if (at === undefined)
        return {
          status: 201,
          body: await publish(context.database, context, context.params.id, publishing),
        }
      await publishLater(context.database, context, context.params.id, publishing, at)
      return { status: 202, ...(await readDraft(context.database, context, context.params.id)) }
    },
  })
