/** Values of PrimeVue's tokens by name. */
export interface Tokens {
  readonly [name: string]: string | number | Tokens
}

export const ramp = (wash: string, line: string, full: string): Tokens => ({
  50: wash,
  100: wash,
  200: line,
  300: line,
  400: full,
  500: full,
  600: full,
  700: full,
  800: full,
  900: full,
  950: full,
})
export const [paper, sheet, wash, ink, quiet, hair, rule, frame] = [
  'var(--paper)',
  'var(--sheet)',
  'var(--wash)',
  'var(--ink)',
  'var(--quiet)',
  'var(--hair)',
  'var(--rule)',
  'var(--frame)',
] as const
export const [stem, stemWash, russet, russetWash, leaf, leafWash, hold] = [
  'var(--stem)',
  'var(--stem-wash)',
  'var(--russet)',
  'var(--russet-wash)',
  'var(--leaf)',
  'var(--leaf-wash)',
  'var(--hold)',
] as const
export const corner = 'var(--corner)'
export const ring = { width: '2px', style: 'solid', color: stem, offset: '2px', shadow: 'none' }
export const innerRing = { ...ring, offset: '-2px' }
export const [stems, russets, leaves, holds] = [
  ramp(stemWash, stem, stem),
  ramp(russetWash, russet, russet),
  ramp(leafWash, leaf, leaf),
  ramp(wash, hold, hold),
]
export const surface = {
  0: sheet,
  50: wash,
  100: wash,
  200: hair,
  300: rule,
  400: frame,
  500: quiet,
  600: quiet,
  700: ink,
  800: ink,
  900: ink,
  950: ink,
}

/** A button: what it stands on, its line, its words; a hover darkens the line and nothing moves. */
export const face = (
  background: string,
  borderColor: string,
  color: string,
  over: { background?: string; borderColor?: string; color?: string } = {},
) => ({
  background,
  borderColor,
  color,
  hoverBackground: over.background ?? background,
  hoverBorderColor: over.borderColor ?? ink,
  hoverColor: over.color ?? color,
  activeBackground: over.background ?? background,
  activeBorderColor: over.borderColor ?? ink,
  activeColor: over.color ?? color,
  focusRing: { color: stem, shadow: 'none' },
})
/** A note or a message: a wash, a line, ink upon it. */
export const said = (background: string, borderColor: string, color: string) => ({
  background,
  borderColor,
  color,
  detailColor: ink,
  shadow: 'none',
  closeButton: { hoverBackground: 'transparent', focusRing: { color: stem, shadow: 'none' } },
  outlined: { color, borderColor },
  simple: { color },
})
export const overlay = {
  background: sheet,
  borderColor: rule,
  color: ink,
  borderRadius: corner,
  shadow: 'none',
}
