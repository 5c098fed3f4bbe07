import { Ajv2020, type ErrorObject, type ValidateFunction } from 'ajv/dist/2020.js'
import type { Contract } from '@bluestem/core/schema'
import { type Static, type TSchema, Type } from 'typebox'
import { invalid, type ProblemDetail } from '../problems/problem.ts'

/** Stops at the first part that is wrong: a body of a thousand wrong parts takes no longer than one. */
export const quick = {
  ajv: new Ajv2020({ strict: false }),
  compiled: new WeakMap<object, ValidateFunction>(),
}

/** Finds every part that is wrong, for bodies small enough. */
export const thorough = {
  ajv: new Ajv2020({ strict: false, allErrors: true }),
  compiled: new WeakMap<object, ValidateFunction>(),
}

/** The largest body, in characters, of which every wrong part is told. */
export const small = 20000
export function validatorOf({ ajv, compiled }: typeof quick, schema: TSchema): ValidateFunction {
  let validate = compiled.get(schema)
  if (!validate) {
    validate = ajv.compile(schema)
    compiled.set(schema, validate)
  }
  return validate
}

/** Judges a body by its schema, with a JSON pointer and what was expected for each part that is wrong, at most twenty of them. */
export function judge<Schema extends TSchema>(
  schema: Schema,
  body: unknown,
): asserts body is Static<Schema> {
  const first = validatorOf(quick, schema)
  if (first(body)) return
  const every = validatorOf(thorough, schema)
  const errors =
    JSON.stringify(body ?? null).length <= small && !every(body) ? every.errors : first.errors
  throw invalid(worst(errors ?? []).map(inWords))
}

/** Of alternatives that all fail, the message of the alternation itself says nothing: leave it out where others tell more. */
export const worst = (errors: readonly ErrorObject[]): readonly ErrorObject[] => {
  const telling = errors.filter((error) => error.keyword !== 'anyOf')
  return telling.length > 0 ? telling : errors
}

export function inWords(error: ErrorObject): ProblemDetail {
  const pointer =
    error.keyword === 'required'
      ? `${error.instancePath}/${String(error.params['missingProperty'])}`
      : error.keyword === 'additionalProperties'
        ? `${error.instancePath}/${String(error.params['additionalProperty'])}`
        : error.instancePath
  const name = pointer.split('/').filter(Boolean).join(', ') || 'The body'
  if (error.keyword === 'required')
    return { pointer, message: `${name} is missing.`, expected: 'a value' }
  if (error.keyword === 'additionalProperties')
    return { pointer, message: `${name} has no meaning here.`, expected: 'nothing' }
  return {
    pointer,
    message: `${name} ${error.message ?? 'is not valid'}.`,
    expected: error.message ?? '',
  }
}

/** An answer without a body. */
const nothing = Type.Null()

/** Judges what is answered by its contract. @throws Error that names the first part that is wrong, for it is a defect of ours */
export function judgeAnswer(
  { route, contract }: { readonly route: string; readonly contract: Contract },
  body: unknown,
): void {
  if (body === undefined && contract.mayBeMinimal) return
  const told: unknown = JSON.parse(JSON.stringify(body ?? null))
  const validate = validatorOf(quick, contract.answer ?? nothing)
  if (validate(told)) return
  const [error] = worst(validate.errors ?? [])
  throw new Error(`${route} answers something else than its contract: ${JSON.stringify(error)}`)
}
