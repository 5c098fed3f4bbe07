import { parseArgs } from 'node:util'

/** A failure the person can mend: its message is one sentence, and the program ends with code 2 without a stack. */
export class CommandError extends Error {}

const began = Date.now()

/** Tells what is being done, with the seconds since the start. @param {string} words */
export function say(words) {
  process.stdout.write(`${((Date.now() - began) / 1000).toFixed(1).padStart(6)} s  ${words}\n`)
}

/** Ends the program on a failure: a plain one with its sentence, a defect with its stack. @param {unknown} error */
export function fail(error) {
  process.stderr.write(
    error instanceof CommandError
      ? `\n${error.message}\n`
      : `\n${error instanceof Error ? error.stack : String(error)}\n`,
  )
  process.exit(error instanceof CommandError ? 2 : 1)
}

/**
 * Reads command-line flags.
 * @param {string[]} args
 * @param {Record<string, 'flag' | 'value'>} known
 * @returns {Record<string, string | true | undefined>}
 */
export function readFlags(args, known) {
  const options = Object.fromEntries(
    Object.entries(known).map(([name, kind]) => [
      name,
      { type: /** @type {'boolean' | 'string'} */ (kind === 'flag' ? 'boolean' : 'string') },
    ]),
  )
  const { tokens } = parseArgs({ args, options, strict: false, tokens: true })
  /** @type {Record<string, string | true | undefined>} */
  const flags = {}
  for (const token of tokens) {
    const kind = token.kind === 'option' ? known[token.name] : undefined
    if (token.kind !== 'option' || !kind || token.rawName !== `--${token.name}`)
      throw new CommandError(
        `There is no option “${args[token.index]}”; there are ${Object.keys(known)
          .map((entry) => `--${entry}`)
          .join(', ')}.`,
      )
    const isValue =
      token.value !== undefined && (token.inlineValue || !token.value.startsWith('--'))
    if (kind === 'value' && !isValue)
      throw new CommandError(`The option --${token.name} needs a value.`)
    flags[token.name] = kind === 'flag' ? true : token.value
  }
  return flags
}

/** @param {string | true | undefined} text @param {string} name @param {number} [fallback] @param {[number, number]} [range] */
export function wholeNumber(text, name, fallback = 0, [least, most] = [1, 65535]) {
  if (text === undefined) return fallback
  const value = Number(text)
  if (!Number.isInteger(value) || value < least || value > most)
    throw new CommandError(
      `The option --${name} takes a whole number from ${least} to ${most}; “${text}” is none.`,
    )
  return value
}
