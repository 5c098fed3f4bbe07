import { endpoint, type Endpoint } from '../http/endpoint.ts'
import { matchOf } from '../http/headers.ts'
import { absences, addAbsence, dropAbsence } from './absences.ts'
import { finishIteration, readPlan } from './plan.ts'
import {
  changeIteration,
  discardIteration,
  iterations,
  makeIteration,
  makeSeries,
  startIteration,
} from './service.ts'

export const iterationEndpoints: readonly Endpoint[] = [
  endpoint('GET /iterations', {
    role: 'viewer',
    summary: 'The iterations, the latest first.',
    answer: async (context) => ({ body: await iterations(context.database, context) }),
  }),
  endpoint('POST /iterations', {
    role: 'member',
    summary: 'Makes an iteration.',
    answer: async (context) => ({
      status: 201,
      body: await makeIteration(context.database, context, context.body),
    }),
  }),
  endpoint('POST /iterations/series', {
    role: 'member',
    summary: 'Makes iterations that follow each other.',
    answer: async (context) => ({
      status: 201,
      body: await makeSeries(context.database, context, context.body),
    }),
  }),
  endpoint('PATCH /iterations/{id}', {
    role: 'member',
    summary: 'Changes an iteration.',
    answer: async (context) => ({
      body: await changeIteration(
        context.database,
        context,
        context.params.id,
        context.body,
        matchOf(context.request),
      ),
    }),
  }),
  endpoint('DELETE /iterations/{id}', {
    role: 'member',
    summary: 'Deletes an iteration that no item ever was in.',
    answer: async (context) => (
      await discardIteration(
        context.database,
        context,
        context.params.id,
        matchOf(context.request),
      ),
      {}
    ),
  }),
  endpoint('GET /iterations/{id}/plan', {
    role: 'viewer',
    summary: 'What an iteration has, what was meant by it, and how much can be worked in it.',
    answer: async (context) => ({
      body: await readPlan(context.database, context, context.params.id),
    }),
  }),
  endpoint('POST /iterations/{id}/start', {
    role: 'member',
    summary: 'Starts an iteration; what is in it is what was committed.',
    answer: async (context) => ({
      body: await startIteration(context.database, context, context.params.id),
    }),
  }),
  endpoint('POST /iterations/{id}/finish', {
    role: 'member',
    summary: 'Finishes an iteration; what is open goes where it is said.',
    answer: async (context) => ({
      body: await finishIteration(context.database, context, context.params.id, context.body),
    }),
  }),
  endpoint('GET /absences', {
    role: 'viewer',
    summary: 'The days on which people are away.',
    answer: async (context) => ({ body: await absences(context.database, context) }),
  }),
  endpoint('POST /absences', {
    role: 'member',
    summary: 'Tells days on which somebody is away.',
    answer: async (context) => ({
      status: 201,
      body: await addAbsence(context.database, context, context.body),
    }),
  }),
  endpoint('DELETE /absences/{absence}', {
    role: 'member',
    summary: 'Takes an absence back.',
    answer: async (context) => (
      await dropAbsence(context.database, context, context.params.absence),
      {}
    ),
  }),
]
