// npm run screenshots: the pictures of docs/screenshots, from the demo on a set day.
import { chmodSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { buildWhenStale } from './build.mjs'
import { openCluster } from './cluster.mjs'
import { ensurePackages, root } from './packages.mjs'
import { fail, say } from './say.mjs'
import { clearDatabase } from './workspace.mjs'

/** @type {readonly (readonly [name: string, path: string, paper: string])[]} */
const pictures = [
  ['fields', '/definitions/fields', 'light'],
  ['flow', '/definitions/flows?rulebook=rb_yard', 'light'],
  ['forms', '/definitions/types?forms=ty_defect', 'light'],
  ['priorities', '/definitions/priorities', 'light'],
  ['labels', '/definitions/labels', 'light'],
  ['templates', '/definitions/templates?id=te_refit', 'light'],
  ['rulebooks', '/definitions/rulebooks?rulebook=rb_yard', 'light'],
  ['limits', '/definitions/limits', 'light'],
  ['people', '/definitions/people?id=tm_inspectors', 'light'],
  ['items', '/work/YARD', 'light'],
  ['item', 'an item on hold', 'light'],
  ['tree', '/work/YARD/tree', 'light'],
  ['iteration-dark', '/iterations/it_apps_40', 'dark'],
  ['query', '/queries/qu_remedies', 'light'],
  ['list', '/views/vi_stop', 'light'],
  ['board', '/views/vi_morning', 'light'],
  ['dashboard', '/dashboards/da_yard', 'light'],
  ['review-dark', '/definitions/review', 'dark'],
]

try {
  ensurePackages()
  await buildWhenStale()
  process.env['BLUESTEM_NOW'] = '2026-11-25T10:00:00Z'
  const folder = mkdtempSync(join(tmpdir(), 'bluestem-pictures-'))
  chmodSync(folder, 0o755)
  const cluster = await openCluster(folder, { tests: true })
  const server = await import(join(root, 'server/dist/main.js'))
  await clearDatabase(cluster)
  await server.prepare(cluster.url)
  await server.demo(cluster.url, 2500)
  const settings = { port: 0, secret: 'only for pictures', screens: join(root, 'web/dist') }
  const serving = await server.serve({ url: cluster.url, ...settings })
  const origin = `http://127.0.0.1:${serving.port}`
  const { openBrowser, settled, signIn } = await import('./browser.mjs')
  const { By, until } = await import('selenium-webdriver')
  const { driver, close } = await openBrowser()
  /** Keeps what the browser shows as the picture of a view. @param {string} name */
  const keep = async (name) => {
    writeFileSync(
      join(root, 'docs/screenshots', `${name}.png`),
      Buffer.from(await driver.takeScreenshot(), 'base64'),
    )
    say(`docs/screenshots/${name}.png`)
  }
  try {
    /** An item that shows much: on hold, described, in hand. */
    const held = async () =>
      `/work/${await driver.executeAsyncScript(`fetch('/api/v1/items/search', { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ filter: "project = 'YARD' AND on_hold = TRUE AND description IS NOT NULL AND due IS NOT NULL", sort: '-comments', limit: 1 }) }).then((answer) => answer.json()).then((answer) => arguments[arguments.length - 1](answer.items[0].ref))`)}`
    /** A draft that leaves a status in use out of a flow: it asks what its items become. */
    const begin = async () =>
      await driver.executeAsyncScript(`
      const status = 'status:ty_defect:st_parts', say = (key) => ({ path: ['rulebooks', 'rb_yard', 'entries', key] })
      fetch('/api/v1/definitions').then((answer) => answer.json()).then(({ document }) => fetch('/api/v1/definitions/drafts', { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ title: 'Parts wait on hold', edits: Object.keys(document.rulebooks.rb_yard.entries).filter((key) => key === status || (key.startsWith('move:ty_defect:') && key.includes(':st_parts'))).map(say) }) })).then(() => arguments[arguments.length - 1]())`)
    for (const [name, path, theme] of pictures) {
      await signIn(driver, origin, 'mara.thiel')
      await driver.executeScript('localStorage.setItem("theme", arguments[0])', theme)
      if (name === 'review-dark') {
        // On a page that has come to rest: one that is still on its way would take the script with it.
        await driver.get(`${origin}${path}`)
        await settled(driver)
        await begin()
      }
      await driver.get(`${origin}${path.startsWith('/') ? path : await held()}`)
      await settled(driver)
      await driver.executeAsyncScript(
        'document.fonts.ready.then(() => setTimeout(arguments[arguments.length - 1], 500))',
      )
      await driver.executeScript('document.querySelector(".line:not(.heading)")?.click()')
      await new Promise((done) => setTimeout(done, 400))
      await settled(driver)
      await keep(name)
    }
    // Setting up is looked at where nothing is set up yet.
    const empty = cluster.url.replace(/\/[^/]+$/, '/nothing')
    await clearDatabase({ ...cluster, url: empty })
    await server.prepare(empty)
    await server.begin(empty, {
      name: 'Ada Reed',
      email: 'ada.reed@marrowmere.example',
      password: 'marrowmere',
    })
    const beginning = await server.serve({ url: empty, ...settings })
    await signIn(driver, `http://127.0.0.1:${beginning.port}`, 'ada.reed')
    await driver.get(`http://127.0.0.1:${beginning.port}/definitions/start`)
    await settled(driver)
    // The screens of a place are fetched when it is opened, which is no request of theirs.
    await driver.wait(until.elementLocated(By.css('h1')), 20_000)
    await settled(driver)
    await keep('start')
    await beginning.close()
  } finally {
    await close()
    await serving.close()
    await cluster.stop()
    rmSync(folder, { recursive: true, force: true })
  }
} catch (error) {
  fail(error)
}
