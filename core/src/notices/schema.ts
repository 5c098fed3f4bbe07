import { Type } from 'typebox'
import {
  type Answer,
  answer,
  type Contracts,
  identity,
  orNull,
  reference,
  ShownChoice,
} from '../schema/index.ts'
import { AuthorAnswer, HistoryLine } from '../work/schema.ts'

/** how many items are told of at most; the earliest changes are left out */
export const mostNotices = 100

const FollowersAnswer = answer('Who hears of an item', {
  followers: Type.Array(answer('Somebody who follows it', reference)),
  isFollowed: Type.Boolean({ description: 'whether the asker hears of it' }),
})

export const NoticeAnswer = answer('What is new about an item', {
  ref: Type.String(),
  title: Type.String(),
  type: ShownChoice,
  status: ShownChoice,
  changes: Type.Array(
    answer('A change by somebody else', {
      from: Type.String(),
      by: AuthorAnswer,
      words: Type.Array(HistoryLine),
    }),
    { description: 'the latest first' },
  ),
})

const NoticesAnswer = answer('What is new', {
  notices: Type.Array(NoticeAnswer, { description: 'the latest change first' }),
  total: Type.Integer({
    description: 'items with something new, those that are left out included',
  }),
})

export type FollowersAnswer = Answer<typeof FollowersAnswer>
export type NoticeAnswer = Answer<typeof NoticeAnswer>
export type NoticesAnswer = Answer<typeof NoticesAnswer>

export const noticeContracts = {
  'GET /notices': { answer: NoticesAnswer },
  'GET /notices/count': {
    answer: answer('How many items have something new', { count: Type.Integer() }),
  },
  'POST /notices/looked': {
    body: Type.Object(
      { refs: Type.Optional(Type.Array(Type.String({ maxLength: 30 }), { maxItems: 500 })) },
      {
        additionalProperties: false,
        title: 'The items that were looked at; all where none is named',
      },
    ),
  },
  'GET /items/{code}/{number}/followers': { answer: FollowersAnswer },
  'POST /items/{code}/{number}/followers': {
    body: Type.Object(
      { person: identity('pe') },
      { additionalProperties: false, title: 'Somebody who is to hear of it' },
    ),
    answer: FollowersAnswer,
  },
  'DELETE /items/{code}/{number}/followers/{person}': {},
  'POST /items/{code}/{number}/looked': {
    answer: answer('When one looked at it before', { before: orNull(Type.String()) }),
  },
} satisfies Contracts
