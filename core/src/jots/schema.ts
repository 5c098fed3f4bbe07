import { type Static, Type } from 'typebox'
import { type Answer, answer, type Contracts, identity, orNull, text } from '../schema/index.ts'

/** how many titles are jotted or filed at once at most */
export const mostJots = 500

export const JotAnswer = answer('A jot', {
  id: Type.String(),
  title: Type.String(),
  above: orNull(Type.String({ description: 'the jot it stands below' })),
  at: Type.String(),
})

export const NewJots = Type.Object(
  {
    text: Type.String({
      minLength: 1,
      maxLength: 200_000,
      description: 'titles, one a line; a line further in stands below the one before it',
    }),
  },
  { additionalProperties: false, title: 'Titles to jot' },
)

export const FileJots = Type.Object(
  {
    project: text(40),
    jots: Type.Array(
      Type.Object({ id: identity('jo'), type: text(40) }, { additionalProperties: false }),
      {
        minItems: 1,
        maxItems: mostJots,
        description:
          'each with the type it becomes; what stands below another that is filed stands below its item',
      },
    ),
  },
  { additionalProperties: false, title: 'Jots to file' },
)

export type JotAnswer = Answer<typeof JotAnswer>
export type FileJots = Static<typeof FileJots>

const Jots = answer('Jots', { jots: Type.Array(JotAnswer) })

export const jotContracts = {
  'GET /jots': { answer: Jots },
  'POST /jots': { body: NewJots, answer: Jots },
  'PATCH /jots/{id}': {
    body: Type.Object(
      { title: text(300) },
      { additionalProperties: false, title: 'Changes to a jot' },
    ),
    answer: JotAnswer,
  },
  'DELETE /jots/{id}': {},
  'POST /jots/file': {
    body: FileJots,
    answer: answer('What was filed', { refs: Type.Array(Type.String()) }),
  },
} satisfies Contracts
