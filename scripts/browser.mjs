import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Builder } from 'selenium-webdriver'
import { Options, ServiceBuilder } from 'selenium-webdriver/chrome.js'
import { ensureChromium } from './packages.mjs'

/** A headless Chromium with a fresh profile. @param {{ width?: number, height?: number }} [size] */
export async function openBrowser({ width = 1280, height = 800 } = {}) {
  const { chromium, chromedriver } = ensureChromium()
  const profile = mkdtempSync(join(tmpdir(), 'bluestem-browser-'))
  const options = new Options()
  options.setChromeBinaryPath(chromium)
  options.addArguments(
    '--headless',
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    '--disable-dev-shm-usage',
    '--force-device-scale-factor=1',
    '--lang=en-GB',
    `--user-data-dir=${profile}`,
    `--window-size=${width},${height}`,
  )
  options.setLoggingPrefs({ browser: 'ALL' })
  const driver = await new Builder()
    .forBrowser('chrome')
    .setChromeOptions(options)
    .setChromeService(new ServiceBuilder(chromedriver))
    .build()
  const bounds = /** @type {{ w: number, h: number }} */ (
    await driver.executeScript('return { w: window.innerWidth, h: window.innerHeight }')
  )
  await driver
    .manage()
    .window()
    .setRect({ width: width + width - bounds.w, height: height + height - bounds.h })
  return {
    driver,
    close: async () => {
      await driver.quit()
      rmSync(profile, { recursive: true, force: true })
    },
  }
}

/** Waits until the page says that no request is under way, and stays so for a moment. @param {import('selenium-webdriver').WebDriver} driver */
export async function settled(driver) {
  await driver.wait(
    async () =>
      await driver.executeAsyncScript(`
    const done = arguments[arguments.length - 1]; let quiet = 0
    const look = () => { quiet = (document.documentElement.dataset.requests ?? '0') === '0' ? quiet + 1 : 0; if (quiet > 5) done(true); else setTimeout(look, 15) }
    look()`),
    20_000,
    'requests are still under way',
    40,
  )
}

/** Signs in with a demo account. @param {import('selenium-webdriver').WebDriver} driver @param {string} origin @param {string} name */
export async function signIn(driver, origin, name) {
  await driver.get(`${origin}/sign-in`)
  await driver.executeAsyncScript(
    `const done = arguments[arguments.length - 1]; fetch('/api/v1/session', { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ email: arguments[0], password: 'marrowmere' }) }).then(() => done())`,
    `${name}@marrowmere.example`,
  )
}
