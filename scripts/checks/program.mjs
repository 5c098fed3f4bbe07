import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { root } from '../packages.mjs'

/**
 * Runs a program of the installed packages, with what it prints going where ours goes.
 *
 * @param {string} file its script below node_modules
 * @param {readonly string[]} args
 * @param {{ env?: Record<string, string>, onStart?: (stop: () => void) => void }} [options] onStart receives what ends the program
 * @returns {Promise<boolean>} whether it ended with code 0
 */
export async function runProgram(file, args, { env = {}, onStart } = {}) {
  const child = spawn(process.execPath, [join(root, 'node_modules', file), ...args], {
    cwd: root,
    stdio: ['ignore', 'inherit', 'inherit'],
    env: { ...process.env, ...env, NODE_ENV: 'test', NO_COLOR: '1' },
  })
  onStart?.(() => {
    if (child.exitCode === null) child.kill('SIGTERM')
  })
  return await new Promise((done) => child.on('exit', (code) => done(code === 0)))
}
