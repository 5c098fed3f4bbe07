import { definePreset } from '@primeuix/themes'
import { fields } from './fields.ts'
import { primitive, semantic } from './general.ts'
import { surfaces } from './surfaces.ts'
import type { Tokens } from './tokens.ts'
import { wiring } from './wiring.ts'

const isTree = (value: unknown): value is Tokens => typeof value === 'object' && value !== null

function merged(tokens: Tokens, other: Tokens): Tokens {
  const all: Record<string, string | number | Tokens> = { ...tokens }
  for (const [name, value] of Object.entries(other)) {
    const before = all[name]
    all[name] = isTree(value) && isTree(before) ? merged(before, value) : value
  }
  return all
}

/** Says the library's light scheme without a scheme: our tokens turn with the paper by themselves. */
function withoutScheme(tree: Tokens): Tokens {
  // A scheme stands among the tokens of the library’s preset.
  const { colorScheme, ...rest } = tree as Tokens & { readonly colorScheme?: { light: Tokens } }
  const flat = colorScheme ? merged(rest, colorScheme.light) : rest
  const entries = Object.entries(flat).map(([name, value]) => [
    name,
    isTree(value) ? withoutScheme(value) : value,
  ])
  // What is taken away was a scheme; the rest are tokens.
  return Object.fromEntries(entries) as Tokens
}

/** What every control of PrimeVue looks like, said in the tokens of `tokens.css` and nothing else. */
export const preset: object = definePreset(
  // The library types each component’s tokens apart; to us all are a tree of texts.
  withoutScheme(wiring as unknown as Tokens) as Record<string, object>,
  {
    primitive,
    semantic,
    components: { ...fields, ...surfaces },
  },
)
