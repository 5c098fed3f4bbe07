import { elementAt, firstIn } from '../known/index.ts'
import { isDay, isInstantText } from '../calendar/day.ts'
import type { Token } from './lexer.ts'
import { literalEndsBefore, plainNumber } from './literal.ts'
import { isReserved } from './name.ts'
import { TokenReader } from './tokens.ts'
import { type ArithmeticOp, bounds, type Scalar } from './tree/tree.ts'

/** What a bracket of arithmetic may hold alone. */
const computable = new Set<Scalar['kind']>(['number', 'property', 'call', 'arithmetic'])

/** Reads values: literals, properties, function calls, arrays and arithmetic over them. */
export abstract class ScalarParser extends TokenReader {
  /** A whole condition as an argument, which the grammar of filters reads. */
  protected abstract condition(): Scalar

  protected sum(): Scalar {
    return this.chain(['+', '-'], () => this.chain(['*', '/', '%', 'div'], () => this.power()))
  }

  protected chain(ops: readonly ArithmeticOp[], part: () => Scalar): Scalar {
    let left = part()
    for (let terms = 1; ; terms += 1) {
      const token = this.peek()
      const op = ops.find((text) =>
        text === 'div' ? this.isWord('div') : token.kind === 'symbol' && token.raw === text,
      )
      if (!op) return left
      // Each sign is a level of the tree, which every later walk goes down.
      if (terms > bounds.depth)
        this.refuse(
          token,
          `At most ${bounds.depth} terms stand in one row; put brackets around parts of it.`,
          'a bracket',
          token.raw,
        )
      this.next += 1
      const right = part()
      left = { kind: 'arithmetic', op, left, right, at: this.span(left) }
    }
  }

  protected power(): Scalar {
    const left = this.signed()
    if (!this.isSymbol('^')) return left
    this.next += 1
    const right = this.signed()
    if (this.isSymbol('^'))
      this.refuse(
        this.peek(),
        '^ does not chain; put brackets: (a ^ b) ^ c or a ^ (b ^ c).',
        'a bracket',
        '^',
      )
    return { kind: 'arithmetic', op: '^', left, right, at: this.span(left) }
  }

  protected signed(): Scalar {
    const sign = this.peek()
    if (!this.isSymbol('-') && !this.isSymbol('+')) return this.atom()
    this.next += 1
    const value = this.atom()
    const at = { from: sign.from, to: value.at.to }
    if (value.kind === 'text') this.refuse(at, 'A sign belongs before a number.', 'a number')
    if (sign.raw === '+') return { ...value, at }
    if (value.kind === 'number') return { kind: 'number', value: `-${value.value}`, at }
    return {
      kind: 'arithmetic',
      op: '*',
      left: { kind: 'number', value: '-1', at: sign },
      right: value,
      at,
    }
  }

  protected atom(): Scalar {
    const token = this.take()
    if (token.kind === 'text') return { kind: 'text', value: token.value, at: token }
    if (token.kind === 'number') return { kind: 'number', value: plainNumber(token), at: token }
    if (token.kind === 'quotedName') return { kind: 'property', name: token.value, at: token }
    if (token.raw === '(') return this.bracketed(token)
    if (token.kind !== 'name') {
      this.next -= 1
      this.refuse(
        token,
        token.kind === 'end' ? 'The query breaks off here.' : `“${token.raw}” cannot stand here.`,
        'a property, a value or a function',
        token.raw,
      )
    }
    return this.named(token)
  }

  /** A sum in brackets; the opening one is taken already. */
  protected bracketed(token: Token): Scalar {
    const inner = this.deeper(() => this.sum())
    this.expectSymbol(')')
    if (!computable.has(inner.kind))
      this.refuse(
        this.span(token),
        'Brackets stand around conditions and arithmetic; this value stands without them.',
        'the value without brackets',
        this.text.slice(token.from, this.span(token).to),
      )
    return { ...inner, at: this.span(token) }
  }

  protected named(token: Token): Scalar {
    const word = token.value.toLowerCase()
    if (this.isSymbol('(') && !isReserved(word)) {
      if (word === 'date' || word === 'timestamp') return this.moment(word)
      if (word === 'interval') return this.interval(token)
      this.next -= 1
      if (word === 'casei' || word === 'accenti') return this.fold(() => this.foldable())
      return this.call()
    }
    if (word === 'true' || word === 'false')
      return { kind: 'boolean', value: word === 'true', at: token }
    if (word === 'null')
      this.refuse(token, 'Nothing equals NULL; for emptiness write IS NULL.', 'a value', token.raw)
    if (isReserved(word)) {
      this.next -= 1
      this.refuse(
        token,
        `A condition or a value is missing before ${token.raw}. (A property of that name stands in double quotes.)`,
        'a property, a value or a function',
        token.raw,
      )
    }
    return { kind: 'property', name: token.value, at: token }
  }

  protected moment(kind: 'date' | 'timestamp'): Scalar {
    const name = elementAt(this.tokens, this.next - 1)
    this.next += 1
    const token = this.peek()
    const example = kind === 'date' ? "DATE('2026-03-01')" : "TIMESTAMP('2026-03-01T08:00:00Z')"
    if (token.kind !== 'text') {
      const end = this.tokens[this.closing(this.next - 1)] ?? token
      this.refuse(
        { from: token.from, to: Math.max(token.to, end.from) },
        `${kind.toUpperCase()} takes text in single quotes: ${example}.`,
        example,
      )
    }
    const valid = kind === 'date' ? isDay(token.value) : isInstantText(token.value)
    if (!valid)
      this.refuse(
        token,
        `'${token.value}' is no ${kind === 'date' ? 'day of the calendar' : 'moment in UTC'}; write ${example}.`,
        example,
        token.value,
      )
    this.next += 1
    this.expectSymbol(')')
    return { kind, value: token.value, at: this.span(name) }
  }

  protected interval(name: Token): Scalar {
    this.expectSymbol('(')
    const start = this.intervalEnd()
    this.expectSymbol(',', "An INTERVAL has two ends: INTERVAL('2026-03-01', '..').")
    const end = this.intervalEnd()
    this.expectSymbol(')')
    const at = this.span(name)
    if (start && end && literalEndsBefore(start, end))
      this.refuse(at, 'This interval ends before it starts.', 'the earlier end first')
    return { kind: 'interval', start, end, at }
  }

  protected intervalEnd(): Scalar | null {
    const token = this.peek()
    if (token.kind === 'text') {
      this.next += 1
      if (token.value === '..') return null
      if (isDay(token.value)) return { kind: 'date', value: token.value, at: token }
      if (isInstantText(token.value)) return { kind: 'timestamp', value: token.value, at: token }
      this.refuse(
        token,
        `'${token.value}' is neither a day ('2026-03-01'), a moment ('2026-03-01T08:00:00Z') nor '..' for an open end.`,
        "a day, a moment or '..'",
        token.value,
      )
    }
    const value = this.atom()
    if (
      value.kind === 'property' ||
      value.kind === 'call' ||
      value.kind === 'date' ||
      value.kind === 'timestamp'
    )
      return value
    this.refuse(
      value.at,
      "An end of an INTERVAL is a day, a moment, a property, a function or '..'.",
      'a day or a moment',
    )
  }

  protected fold(inside: () => Scalar): Scalar {
    const name = this.take()
    this.next += 1
    const value = this.deeper(inside)
    this.expectSymbol(')')
    return {
      kind: 'fold',
      fold: name.value.toLowerCase() === 'casei' ? 'casei' : 'accenti',
      value,
      at: this.span(name),
    }
  }

  protected foldable(): Scalar {
    const value = this.atom()
    if (['text', 'property', 'fold', 'call'].includes(value.kind)) return value
    this.refuse(value.at, 'CASEI and ACCENTI fold text.', 'text')
  }

  protected call(): Scalar {
    const name = this.take()
    this.next += 1
    const args = this.list(')', () => this.deeper(() => this.argument()))
    return {
      kind: 'call',
      name: name.value,
      args,
      at: this.span(name),
      nameAt: { from: name.from, to: name.to },
    }
  }

  /** An argument is a value, an array or a whole condition, as the standard allows. */
  protected argument(): Scalar {
    const start = this.next
    if (this.isSymbol('(')) {
      const inside = this.tokens.slice(start + 1, this.closing(start))
      if (inside.some((token) => token.raw === ',')) return this.arrayItem()
    }
    if (this.isWord('not')) return this.condition()
    const value = this.sum()
    const token = this.peek()
    if (token.raw === ',' || token.raw === ')' || token.kind === 'end' || token.kind === 'text')
      return value
    this.next = start
    return this.condition()
  }

  /** One member of an array; a bracket with several members, or none, is an array inside. */
  protected arrayItem(): Scalar {
    if (!this.isSymbol('(')) return this.sum()
    const open = this.take()
    const items = this.list(')', () => this.deeper(() => this.nestedItem()))
    return { kind: 'array', items, at: this.span(open) }
  }

  protected nestedItem(): Scalar {
    if (!this.isSymbol('(')) return this.sum()
    const after = this.tokens[this.closing(this.next) + 1]
    if (after && after.raw !== ',' && after.raw !== ')') return this.sum()
    const inner = this.arrayItem()
    return inner.kind === 'array' && inner.items.length === 1 ? firstIn(inner.items) : inner
  }

  protected arrayExpression(): Scalar {
    const token = this.peek()
    if (token.raw === '(' || token.kind === 'quotedName') return this.arrayItem()
    if (token.kind === 'name' && !isReserved(token.value)) return this.atom()
    this.refuse(
      token,
      "An array stands in round brackets: ('a', 'b').",
      'a property, a function or a list',
      token.raw,
    )
  }
}
