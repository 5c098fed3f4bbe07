// npm run definitions -- pull|push|diff FILE: the definitions as a file, for version control and review.
import { readFileSync, writeFileSync } from 'node:fs'
import { CommandError, fail, readFlags } from './say.mjs'

const acts = /** @type {const} */ (['pull', 'push', 'diff'])
const usage =
  'Say what to do and with which file: npm run definitions -- pull|push|diff FILE [--url http://127.0.0.1:5180] [--rulebook ID].'

/** @typedef {{ detail?: string, errors?: { pointer?: string, message: string, expected?: string }[] }} Refusal */

/** Signs in with the account named by the environment. @param {string} url @returns {Promise<(method: string, path: string, body?: unknown) => Promise<any>>} */
async function signIn(url) {
  const { BLUESTEM_EMAIL: email, BLUESTEM_PASSWORD: password } = process.env
  if (!email || !password)
    throw new CommandError('Say who you are: set BLUESTEM_EMAIL and BLUESTEM_PASSWORD.')
  let cookie = ''
  /** @param {string} method @param {string} path @param {unknown} [body] */
  const call = async (method, path, body) => {
    const answer = await fetch(`${url}/api/v1${path}`, {
      method,
      headers: { 'content-type': 'application/json', origin: url, cookie },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    }).catch(() => {
      throw new CommandError(`Nothing answers at ${url}; is Bluestem running there?`)
    })
    cookie = answer.headers.get('set-cookie')?.split(';')[0] ?? cookie
    const text = await answer.text()
    const read = text === '' ? undefined : JSON.parse(text)
    if (!answer.ok) throw new CommandError(told(/** @type {Refusal} */ (read)))
    return read
  }
  await call('POST', '/session', { email, password })
  return call
}

/** A refusal with every place it names. @param {Refusal} refusal */
const told = ({ detail = 'Refused.', errors = [] }) =>
  [
    detail,
    ...errors.map(
      ({ pointer, message, expected }) =>
        `  ${pointer || '/'}: ${message}${expected ? ` Needed: ${expected}.` : ''}`,
    ),
  ].join('\n')

/** @param {string} file */
function readFile(file) {
  let text
  try {
    text = readFileSync(file, 'utf8')
  } catch {
    throw new CommandError(`There is no file ${file} that can be read.`)
  }
  try {
    return JSON.parse(text)
  } catch (error) {
    throw new CommandError(`${file} is not JSON: ${/** @type {Error} */ (error).message}`)
  }
}

try {
  const [act, file, ...rest] = process.argv.slice(2)
  if (!acts.includes(/** @type {any} */ (act)) || !file || file.startsWith('--'))
    throw new CommandError(usage)
  const flags = readFlags(rest, { url: 'value', rulebook: 'value' })
  const url = String(flags['url'] ?? 'http://127.0.0.1:5180').replace(/\/$/, '')
  const given = act === 'pull' ? undefined : readFile(file)
  const call = await signIn(url)
  if (act === 'pull') {
    const whole = await call(
      'GET',
      flags['rulebook']
        ? `/definitions/rulebooks/${String(flags['rulebook'])}`
        : '/definitions/file',
    )
    writeFileSync(file, `${JSON.stringify(whole, null, 2)}\n`)
    process.stdout.write(
      `${file} holds ${flags['rulebook'] ? 'the rulebook' : 'the definitions'} as published.\n`,
    )
  } else {
    const { changes } = await call('POST', '/definitions/differences', given)
    for (const { words } of changes) process.stdout.write(`${words}\n`)
    if (changes.length === 0) process.stdout.write('Nothing is different.\n')
    else if (act === 'push') {
      const { draft } = await call('POST', '/definitions/import', given)
      process.stdout.write(
        `The draft “${draft.title}” holds ${changes.length === 1 ? 'this change' : `these ${changes.length} changes`}; look at what it touches and publish them at ${url}/definitions.\n`,
      )
    }
  }
} catch (error) {
  fail(error)
}
