import { isNumber, isText } from './comparable.ts'
import type { Type, Value } from './tree/checked.ts'
import { NameChecker } from './checkNames.ts'
import type { FunctionName } from './functions/functions.ts'
import type { Parameter } from './functions/entry.ts'
import type { Scalar } from './tree/tree.ts'
import { describe } from './typeWords.ts'
import { wordsOf } from './values/words.ts'

/** How many words `words()` looks for at once. */
const mostWords = 20

const isOfTeams = (type: Type): boolean => type.kind === 'array' && type.domain === 'team'

/** Judges what stands between the brackets of a function. */
export abstract class ArgumentChecker extends NameChecker {
  protected abstract value(scalar: Scalar): Value

  protected argument(
    name: FunctionName,
    parameter: Parameter,
    scalar: Scalar,
    before: readonly Value[],
  ): Value {
    const { at } = scalar
    switch (parameter.kind) {
      case 'whole':
        return this.wholeNumber(name, parameter.most, scalar)
      case 'choice':
        if (scalar.kind === 'text') return this.choice(scalar.value, parameter.domain, at)
        return this.wrong(
          at,
          `${name} takes the name of ${describe({ kind: 'choice', domain: parameter.domain })} in single quotes.`,
          { expected: 'a name in single quotes' },
        )
      case 'label':
        if (scalar.kind === 'text') return this.label(scalar.value, before[0], at)
        return this.wrong(at, `${name} takes the title of a label in single quotes.`, {
          expected: 'a title in single quotes',
        })
      case 'teams':
        return this.teams(name, scalar)
      case 'words':
        return this.words(name, scalar)
      case 'property':
        return this.ownProperty(name, scalar)
      case 'held':
        return this.held(name, scalar, before[0])
      case 'interval':
        return this.intervalArgument(name, scalar)
    }
  }

  /** One team by its name, or the teams of whoever asks. */
  protected teams(name: FunctionName, scalar: Scalar): Value {
    const { at } = scalar
    if (scalar.kind === 'text') return this.choice(scalar.value, 'team', at)
    const { value, failed } = this.tries(() => this.value(scalar))
    if (failed || (value.kind === 'call' && isOfTeams(value.type))) return value
    return this.wrong(at, `${name} takes the name of a team in single quotes, or my_teams().`, {
      expected: 'a name in single quotes, or my_teams()',
    })
  }

  protected wholeNumber(name: FunctionName, most: number, scalar: Scalar): Value {
    const { at } = scalar
    if (scalar.kind !== 'number' || !/^-?\d+$/.test(scalar.value))
      return this.wrong(at, `${name} takes a whole number written out.`, {
        expected: 'a whole number',
      })
    if (Math.abs(Number(scalar.value)) > most)
      return this.wrong(at, `${name} reaches a hundred years either way: ${-most} to ${most}.`, {
        expected: `${-most} to ${most}`,
        found: scalar.value,
      })
    return { kind: 'literal', type: isNumber, value: String(Number(scalar.value)), at }
  }

  protected words(name: FunctionName, scalar: Scalar): Value {
    const { at } = scalar
    if (scalar.kind !== 'text')
      return this.wrong(at, `${name} takes words in single quotes.`, {
        expected: "words in single quotes, such as 'front door'",
      })
    const count = wordsOf(scalar.value).length
    if (count === 0 || count > mostWords)
      return this.wrong(at, `${name} takes 1 to ${mostWords} words of letters and digits.`, {
        expected: `1 to ${mostWords} words`,
        found: `${count} words`,
      })
    return { kind: 'literal', type: isText, value: scalar.value, at }
  }

  protected ownProperty(name: FunctionName, scalar: Scalar): Value {
    const { at } = scalar
    const { value, failed } = this.tries(() => this.value(scalar))
    if (
      !failed &&
      (value.kind !== 'property' || value.ofParent || !value.property.changesWith.includes('own'))
    )
      return this.wrong(at, `${name} takes a property of the item itself, without quotes.`, {
        expected: 'a property',
      })
    return value
  }

  protected intervalArgument(name: FunctionName, scalar: Scalar): Value {
    const { at } = scalar
    const { value, failed } = this.tries(() => this.value(scalar))
    if (!failed && value.type.kind !== 'interval')
      return this.wrong(
        at,
        `${name} takes an interval here, such as week(0) or INTERVAL('2026-01-01', '..').`,
        { expected: 'an interval' },
      )
    return value
  }

  protected held(name: FunctionName, scalar: Scalar, property: Value | undefined): Value {
    const of = property?.kind === 'property' ? property.property : undefined
    if (!of) return this.value(scalar)
    if (of.type.kind === 'array' || of.type.kind === 'choice') {
      if (scalar.kind === 'text') return this.choice(scalar.value, of.type.domain, scalar.at)
      return this.wrong(scalar.at, `${name} takes one value of ${of.handle} in single quotes.`, {
        expected: 'a name in single quotes',
      })
    }
    const { value, failed } = this.tries(() => this.value(scalar))
    if (!failed && (value.kind !== 'literal' || value.type.kind !== of.type.kind))
      return this.wrong(
        scalar.at,
        `${name} takes one value of ${of.handle}, which is ${describe(of.type)}.`,
        { expected: describe(of.type) },
      )
    return value
  }
}
