import { describe, expect, it } from 'vitest'
import { lex, Refusal } from './lexer.ts'

const kinds = (text: string): string[] => lex(text).map((token) => `${token.kind}:${token.value}`)

describe('cutting a text into tokens', () => {
  it.each<[string, string[]]>([
    ['', ['end:']],
    ["a='b'", ['name:a', 'symbol:=', 'text:b', 'end:']],
    ['a<>1.50', ['name:a', 'symbol:<>', 'number:1.50', 'end:']],
    ['a<=-2', ['name:a', 'symbol:<=', 'symbol:-', 'number:2', 'end:']],
    ['"crew size"', ['quotedName:crew size', 'end:']],
    ["'it''s' 'it\\'s'", ["text:it's", "text:it's", 'end:']],
    ['parent.due', ['name:parent.due', 'end:']],
    ['größe 船', ['name:größe', 'name:船', 'end:']],
    ['.5 5. 1e3', ['number:.5', 'number:5.', 'number:1e3', 'end:']],
    ['a%b^c', ['name:a', 'symbol:%', 'name:b', 'symbol:^', 'name:c', 'end:']],
  ])('%j', (text, tokens) => {
    expect(kinds(text)).toEqual(tokens)
  })

  it('keeps where each token stands, in UTF-16 units', () => {
    expect(lex("'🚢' = a").map(({ from, to }) => [from, to])).toEqual([
      [0, 4],
      [5, 6],
      [7, 8],
      [8, 8],
    ])
  })

  it.each<[string, number, number, RegExp]>([
    ["a = 'open", 4, 9, /not closed/],
    ['a = "open', 4, 9, /not closed/],
    ['a == 1', 2, 4, /write =/],
    ['a != 1', 2, 4, /write <>/],
    ['a && b', 2, 4, /write AND/],
    ['a [1]', 2, 3, /round brackets/],
    ['2fast', 0, 5, /neither a number nor a name/],
    ['a; b', 1, 2, /has no meaning here/],
  ])('%j is refused from %i to %i', (text, from, to, message) => {
    try {
      lex(text)
      expect.unreachable()
    } catch (refusal) {
      expect(refusal).toBeInstanceOf(Refusal)
      expect((refusal as Refusal).error).toMatchObject({
        from,
        to,
        message: expect.stringMatching(message) as unknown,
      })
    }
  })
})
