import { elementAt, firstIn, isOneOf, lastIn } from '../known/index.ts'
import { Refusal, type Token } from './lexer.ts'
import { quoteName } from './name.ts'
import { ScalarParser } from './scalars.ts'
import {
  type ArrayOp,
  arrayOps,
  bounds,
  compareOps,
  type Filter,
  type Outcome,
  type Scalar,
  type TemporalOp,
  temporalOps,
} from './tree/tree.ts'

const arrayNames = new Map<string, ArrayOp>(arrayOps.map((op) => [op.toLowerCase(), op]))
const temporalNames = new Map<string, TemporalOp>(temporalOps.map((op) => [op.toLowerCase(), op]))

/**
 * Reads a CQL2 text into a filter. Only the grammar is judged here; `check` says what the names mean.
 *
 * @returns the tree, or the first error with its place; texts over the bounds are refused
 */
export function parse(text: string): Outcome<Filter> {
  if (text.length > bounds.length) {
    return {
      ok: false,
      errors: [
        {
          from: bounds.length,
          to: text.length,
          message: `This query has ${text.length} characters; at most ${bounds.length} are read.`,
        },
      ],
    }
  }
  try {
    return { ok: true, value: new FilterParser(text).whole() }
  } catch (refusal) {
    if (refusal instanceof Refusal) return { ok: false, errors: [refusal.error] }
    throw refusal
  }
}

/** Reads conditions: comparisons, predicates and how AND, OR and NOT join them. */
class FilterParser extends ScalarParser {
  whole(): Filter {
    if (this.peek().kind === 'end')
      this.refuse(
        { from: 0, to: this.text.length },
        'There is nothing to ask yet.',
        "a condition, such as status = 'Open'",
      )
    const filter = this.either()
    const rest = this.peek()
    if (rest.kind !== 'end')
      this.refuse(
        rest,
        `Nothing may follow here; “${rest.raw}” does.`,
        'AND, OR or the end',
        rest.raw,
      )
    return filter
  }

  protected either(): Filter {
    return this.joined('or', () => this.joined('and', () => this.factor()))
  }

  protected joined(kind: 'and' | 'or', part: () => Filter): Filter {
    const args = [part()]
    while (this.takeWord(kind)) args.push(part())
    return args.length === 1
      ? firstIn(args)
      : { kind, args, at: { from: firstIn(args).at.from, to: lastIn(args).at.to } }
  }

  protected factor(): Filter {
    const not = this.peek()
    if (!this.takeWord('not')) return this.deeper(() => this.primary())
    if (this.isWord('not'))
      this.refuse(
        this.peek(),
        'NOT may not follow NOT; put brackets around what it denies: NOT (NOT …).',
        'a condition or a bracket',
        'NOT',
      )
    const arg = this.deeper(() => this.primary())
    return { kind: 'not', arg, at: { from: not.from, to: arg.at.to } }
  }

  protected primary(): Filter {
    const first = this.peek()
    if (this.isSymbol('(')) {
      const bracket = this.bracketedFilter()
      if (bracket) return bracket
    }
    if (this.isTruth() && !this.comparesNext(1)) {
      this.next += 1
      return { kind: 'truth', value: first.value.toLowerCase() === 'true', at: first }
    }
    const name = first.kind === 'name' && this.peek(1).raw === '(' ? first.value.toLowerCase() : ''
    const arrayOp = arrayNames.get(name)
    if (arrayOp) return this.arrayPredicate(arrayOp)
    const temporalOp = temporalNames.get(name)
    if (temporalOp) return this.temporalPredicate(temporalOp)
    return this.predicate(this.sum())
  }

  /** A bracket may hold a filter or begin a sum: read it as a filter unless what follows it compares or computes. */
  protected bracketedFilter(): Filter | undefined {
    const start = this.next
    const after = this.tokens[this.closing(start) + 1]
    if (after && this.continuesScalar(after)) return undefined
    this.next += 1
    const inner = this.deeper(() => this.either())
    this.expectSymbol(')')
    return {
      ...inner,
      at: {
        from: elementAt(this.tokens, start).from,
        to: elementAt(this.tokens, this.next - 1).to,
      },
    }
  }

  protected continuesScalar(token: Token): boolean {
    if (token.kind === 'symbol') return token.raw !== ')' && token.raw !== ','
    return (
      token.kind === 'name' &&
      ['like', 'between', 'in', 'is', 'not', 'div'].includes(token.value.toLowerCase())
    )
  }

  protected comparesNext(ahead: number): boolean {
    return this.continuesScalar(this.peek(ahead))
  }

  protected predicate(left: Scalar): Filter {
    const token = this.peek()
    const { raw } = token
    if (token.kind === 'symbol' && isOneOf(compareOps, raw)) {
      this.next += 1
      const right = this.sum()
      return { kind: 'compare', op: raw, left, right, at: this.span(left) }
    }
    const not = this.isWord('not') ? this.peek() : undefined
    if (not) {
      this.next += 1
      if (!['like', 'between', 'in'].some((word) => this.isWord(word)))
        this.refuse(
          { from: not.from, to: this.peek().to },
          'Here NOT is followed by LIKE, BETWEEN or IN; for emptiness write IS NOT NULL.',
          'LIKE, BETWEEN or IN',
          this.peek().raw,
        )
    }
    const bare = this.wordPredicate(left)
    if (bare) return not ? { kind: 'not', arg: bare, at: bare.at } : bare
    return this.bareScalar(left)
  }

  protected wordPredicate(value: Scalar): Filter | undefined {
    if (this.takeWord('like'))
      return {
        kind: 'like',
        value: this.textual(value),
        pattern: this.pattern(),
        at: this.span(value),
      }
    if (this.takeWord('between')) {
      const low = this.betweenBound()
      if (!this.takeWord('and'))
        this.refuse(
          this.peek(),
          'BETWEEN takes two bounds joined by AND: x BETWEEN 1 AND 5.',
          'AND',
          this.peek().raw,
        )
      return { kind: 'between', value, low, high: this.betweenBound(), at: this.span(value) }
    }
    if (this.takeWord('in')) {
      this.expectSymbol('(', "IN takes a list in round brackets: IN ('a', 'b').")
      const list = this.list(')', () => this.sum())
      if (list.length === 0)
        this.refuse(
          elementAt(this.tokens, this.next - 1),
          'The list of IN may not be empty.',
          'a value',
        )
      return { kind: 'in', value, list, at: this.span(value) }
    }
    if (!this.takeWord('is')) return undefined
    const not = this.takeWord('not')
    if (!this.takeWord('null'))
      this.refuse(this.peek(), 'After IS stands NULL or NOT NULL.', 'NULL', this.peek().raw)
    const isNull: Filter = { kind: 'isNull', value, at: this.span(value) }
    return not ? { kind: 'not', arg: isNull, at: isNull.at } : isNull
  }

  protected bareScalar(value: Scalar): Filter {
    if (value.kind === 'call') return value
    const follows = this.peek()
    if (
      value.kind === 'property' &&
      follows.kind === 'name' &&
      temporalNames.has(follows.value.toLowerCase())
    )
      this.refuse(
        follows,
        `${follows.raw} is written before what it compares: ${follows.raw}(${value.name}, …).`,
        'a comparison',
        follows.raw,
      )
    const mend = value.kind === 'property' ? `${quoteName(value.name)} = TRUE` : undefined
    this.refuse(
      value.at,
      mend
        ? `A property alone is no condition; for a yes/no property write ${mend}.`
        : 'A value alone is no condition; it must be compared with something.',
      'a comparison',
      this.text.slice(value.at.from, value.at.to),
      mend,
    )
  }

  protected betweenBound(): Scalar {
    const bound = this.sum()
    if (bound.kind === 'date' || bound.kind === 'timestamp')
      this.refuse(
        bound.at,
        'BETWEEN takes numbers; for dates write x >= DATE(…) AND x <= DATE(…), or T_INTERSECTS(x, INTERVAL(…)).',
        'a number',
        this.text.slice(bound.at.from, bound.at.to),
      )
    return bound
  }

  protected pattern(): Scalar {
    const token = this.peek()
    if (token.kind === 'text') return this.atom()
    if (
      token.kind === 'name' &&
      ['casei', 'accenti'].includes(token.value.toLowerCase()) &&
      this.peek(1).raw === '('
    )
      return this.fold(() => this.pattern())
    this.refuse(
      token,
      'LIKE takes a pattern in single quotes: % stands for any run of characters, _ for one.',
      "'pattern'",
      token.raw,
    )
  }

  protected textual(value: Scalar): Scalar {
    if (value.kind === 'number' || value.kind === 'boolean')
      this.refuse(
        value.at,
        'LIKE compares text; a number or a truth value stands before it.',
        'text',
      )
    return value
  }

  protected arrayPredicate(op: ArrayOp): Filter {
    const start = this.take()
    this.next += 1
    const left = this.arrayExpression()
    this.expectSymbol(',')
    const right = this.arrayExpression()
    this.expectSymbol(')')
    return { kind: 'array', op, left, right, at: this.span(start) }
  }

  protected temporalPredicate(op: TemporalOp): Filter {
    const start = this.take()
    this.next += 1
    const left = this.temporal()
    this.expectSymbol(',')
    const right = this.temporal()
    this.expectSymbol(')')
    return { kind: 'temporal', op, left, right, at: this.span(start) }
  }

  protected temporal(): Scalar {
    const value = this.atom()
    if (['property', 'call', 'date', 'timestamp', 'interval'].includes(value.kind)) return value
    this.refuse(
      value.at,
      'The T_ operators compare dates, moments and intervals.',
      'DATE(…), TIMESTAMP(…), INTERVAL(…), a property or a function',
    )
  }

  protected condition(): Scalar {
    const filter = this.either()
    return { kind: 'condition', filter, at: filter.at }
  }
}
