import { openBrowser, settled, signIn } from '../scripts/browser.mjs'
import { origin } from './world.ts'

/** Scrolls to the end of a table as a hand does, and gives the time between frames in milliseconds. */
const scrollThrough = `
  const done = arguments[arguments.length - 1]
  const box = [...document.querySelectorAll('.sheet *')].find((one) => one.scrollHeight > one.clientHeight + 200 && getComputedStyle(one).overflowY !== 'visible')
  const frames = []
  let last = performance.now()
  let left = 240
  const step = (now) => {
    frames.push(now - last)
    last = now
    if (box) box.scrollTop += 400
    if ((left -= 1) > 0) requestAnimationFrame(step)
    else done({ frames, height: box ? box.scrollHeight : 0 })
  }
  requestAnimationFrame(step)`

/** Opens the tree of the largest project in a browser, all of it, and scrolls: how long the longest frame takes. */
export async function treeInBrowser(): Promise<void> {
  const { driver, close } = await openBrowser()
  try {
    await signIn(driver, origin, 'mara.thiel')
    const began = performance.now()
    await driver.get(`${origin}/work/YARD/tree`)
    await settled(driver)
    const opened = performance.now() - began
    const button = await driver.findElement({ xpath: '//button[contains(., "Show finished")]' })
    await button.click()
    await settled(driver)
    const { frames, height } = await driver.executeAsyncScript<{
      frames: readonly number[]
      height: number
    }>(scrollThrough)
    const sorted = frames.slice(2).toSorted((a, b) => a - b)
    console.log('\nThe tree of the largest project, finished work shown, scrolled in Chromium')
    console.log(
      `  opened in ${opened.toFixed(0)} ms; ${height} px of rows; frames: median ${sorted[Math.floor(sorted.length / 2)]!.toFixed(0)} ms, longest ${sorted.at(-1)!.toFixed(0)} ms (none over 50)`,
    )
  } finally {
    await close()
  }
}
