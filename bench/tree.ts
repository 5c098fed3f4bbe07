import { By, until, type WebDriver } from 'selenium-webdriver'
import { openBrowser, settled, signIn } from '../scripts/browser.mjs'
import { median } from './measure.ts'
import { origin } from './world.ts'

/** Watches the time between frames from now on, in milliseconds. */
const watchFrames = `
  window.frames_ = []
  let last = performance.now()
  const step = (now) => {
    window.frames_.push(now - last)
    last = now
    window.watch_ = requestAnimationFrame(step)
  }
  cancelAnimationFrame(window.watch_ ?? 0)
  window.watch_ = requestAnimationFrame(step)`

/** Scrolls a box by half a page in every frame, 240 times; gives the height of its rows. */
const scrollThrough = `
  const done = arguments[arguments.length - 1]
  const box = document.querySelector(arguments[0])
  let left = 240
  const step = () => {
    box.scrollTop += 400
    if ((left -= 1) > 0) requestAnimationFrame(step)
    else done(box.scrollHeight)
  }
  requestAnimationFrame(step)`

/** Lays the rows of the tree as a plain page over it, as many as are scrolled through: what drawing alone takes in this browser. */
const layPlainPage = `
  const tree = document.querySelector('[role=treegrid]')
  const page = document.createElement('div')
  page.id = 'plain'
  const { left, top, width, height } = tree.getBoundingClientRect()
  page.style.cssText = 'position:fixed;overflow:auto;background:var(--paper);z-index:99;left:' + left + 'px;top:' + top + 'px;width:' + width + 'px;height:' + height + 'px'
  const rows = document.createElement('div')
  rows.style.cssText = 'position:relative;height:102400px;--branch-columns:' + getComputedStyle(tree).getPropertyValue('--branch-columns')
  const known = [...tree.querySelectorAll('[data-ref]')]
  for (let at = 0; at < 3200; at += 1) {
    const row = known[at % known.length].cloneNode(true)
    row.style.transform = 'translateY(' + at * 32 + 'px)'
    rows.append(row)
  }
  page.append(rows)
  document.body.append(page)`

/** What was watched, without the first frames, in which the watching itself begins. */
async function framesOf(driver: WebDriver): Promise<readonly number[]> {
  return (await driver.executeScript<number[]>('return window.frames_')).slice(2)
}

const inWords = (frames: readonly number[]): string =>
  `median ${median(frames).toFixed(0)} ms, longest ${Math.max(...frames).toFixed(0)} ms`

async function press(driver: WebDriver, words: string): Promise<void> {
  const place = By.xpath(`//button[contains(., "${words}")]`)
  await (await driver.wait(until.elementLocated(place), 20_000)).click()
}

/** Opens the tree of the largest project in a browser, all of it, and scrolls: how long the longest frame takes. */
export async function treeInBrowser(): Promise<void> {
  const { driver, close } = await openBrowser()
  try {
    await signIn(driver, origin, 'mara.thiel')
    const began = performance.now()
    await driver.get(`${origin}/work/YARD/tree`)
    await settled(driver)
    const opened = performance.now() - began
    await driver.executeScript(watchFrames)
    await press(driver, 'Show finished')
    await press(driver, 'Unfold all')
    await driver.wait(until.elementLocated(By.xpath('//button[contains(., "Fold all")]')), 20_000)
    await driver.sleep(1000)
    const unfolding = await framesOf(driver)
    await driver.executeScript(watchFrames)
    const height = await driver.executeAsyncScript<number>(scrollThrough, '[role=treegrid]')
    const scrolling = await framesOf(driver)
    await driver.executeScript(layPlainPage)
    await driver.sleep(1000)
    await driver.executeScript(watchFrames)
    await driver.executeAsyncScript(scrollThrough, '#plain')
    const plain = await framesOf(driver)
    console.log('\nThe tree of the largest project, all of it unfolded, in Chromium')
    console.log(`  opened in ${opened.toFixed(0)} ms; ${Math.round(height / 32)} rows`)
    console.log(`  frames while it unfolds: ${inWords(unfolding)}`)
    console.log(`  frames while it is scrolled: ${inWords(scrolling)} (none over 50)`)
    console.log(`  the same rows as a plain page, scrolled alike: ${inWords(plain)}`)
  } finally {
    await close()
  }
}
