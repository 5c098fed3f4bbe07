import axe from 'axe-core'
import { By, Key, until, type WebDriver, type WebElement } from 'selenium-webdriver'
import { settled } from '../scripts/browser.mjs'

const axeRules: Record<'everything' | 'colours', axe.RunOnly> = {
  everything: {
    type: 'tag',
    values: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'],
  },
  colours: { type: 'rule', values: ['color-contrast', 'link-in-text-block'] },
}

/** Rows after the first twelve of a table repeat what was judged. */
const repeated = [['tbody tr:nth-child(n+13)'], ['[role=rowgroup] > [role=row]:nth-child(n+13)']]

function inOneLine({ id, nodes }: axe.Result): string {
  const places = nodes.slice(0, 3).map(({ target }) => target.join(' '))
  const why = nodes[0]?.failureSummary?.replace(/\s+/g, ' ').slice(0, 200) ?? ''
  return `${id}: ${places.join(', ')} ${why}`
}

/** How often a page is looked at while something is waited for, in milliseconds. */
const often = 40

/** Where a journey looks while a dialog is open. */
export const dialog = "//*[@role='dialog']"

/** How a journey touches a page: by what a person reads on it. */
export class Page {
  readonly driver: WebDriver
  readonly origin: string

  constructor(driver: WebDriver, origin: string) {
    this.driver = driver
    this.origin = origin
  }

  async open(path: string): Promise<void> {
    await this.driver.get(`${this.origin}${path}`)
    await settled(this.driver)
  }

  async find(css: string): Promise<WebElement> {
    return await this.driver.wait(
      until.elementLocated(By.css(css)),
      10_000,
      `nothing is like ${css}`,
      often,
    )
  }

  async all(css: string): Promise<WebElement[]> {
    return await this.driver.findElements(By.css(css))
  }

  /** A button, link, tab or summary by its words or its name. */
  async named(words: string, within = ''): Promise<WebElement> {
    const own = `(self::button or self::a or @role='tab' or @role='option' or @role='menuitem')`
    const path = `${within}//*[${own} and (normalize-space(.)=${quoted(words)} or @aria-label=${quoted(words)})]`
    return await this.driver.wait(
      until.elementLocated(By.xpath(path)),
      10_000,
      `nothing is called ${words}`,
      often,
    )
  }

  async press(words: string, within = ''): Promise<void> {
    await (await this.named(words, within)).click()
    await settled(this.driver)
  }

  /** The control under a label, or one with that name; while a dialog is open, only what is in it can be reached. */
  async control(label: string): Promise<WebElement> {
    const within = (await this.all('[role=dialog]')).length > 0 ? dialog : ''
    const own = `(self::input or self::textarea or @role='combobox')`
    const path = `${within}//*[${own} and (@aria-label=${quoted(label)} or ancestor::label[normalize-space(span)=${quoted(label)}] or @id=//label[normalize-space()=${quoted(label)}]/@for)]`
    return await this.driver.wait(
      until.elementLocated(By.xpath(path)),
      10_000,
      `nothing is labelled ${label}`,
      often,
    )
  }

  async write(label: string, text: string): Promise<void> {
    const control = await this.control(label)
    await control.sendKeys(Key.chord(Key.CONTROL, 'a'), text)
  }

  async choose(label: string, option: string): Promise<void> {
    const control = await this.control(label)
    await control.sendKeys(Key.ARROW_DOWN)
    await (await this.named(option, "//*[@role='listbox']")).click()
    await settled(this.driver)
  }

  /** Waits until the page says something. */
  async reads(text: string): Promise<void> {
    await this.driver.wait(
      async () => (await this.text()).includes(text),
      10_000,
      `the page does not say: ${text}`,
      often,
    )
  }

  async text(css = 'body'): Promise<string> {
    return await (await this.find(css)).getText()
  }

  /** Takes hold of something, carries it over, and lets go: press, a first small move, the way there, a pause, release. */
  async carry(from: WebElement, to: WebElement): Promise<void> {
    const actions = this.driver.actions({ async: true })
    await actions
      .move({ origin: from })
      .press()
      .move({ origin: from, x: 6, y: 6 })
      .move({ origin: to, duration: 250 })
      .pause(80)
      .move({ origin: to, x: 1, y: 1 })
      .perform()
  }

  async letGo(): Promise<void> {
    await this.driver.actions({ async: true }).release().perform()
    await settled(this.driver)
  }

  /** What axe finds wrong with the page, each rule with where: everything, or only what depends on colour. */
  async axe(rules: keyof typeof axeRules): Promise<string[]> {
    await this.driver.executeScript(`if (!window.axe) { ${axe.source} }`)
    const violations = await this.driver.executeAsyncScript<axe.Result[]>(
      `const [context, runOnly, done] = arguments
      axe.run(context, { runOnly, resultTypes: ['violations'] }).then(({ violations }) => done(violations))`,
      { exclude: repeated },
      axeRules[rules],
    )
    return violations.map(inOneLine)
  }

  /** Chooses the paper as another window would, and waits until every colour has changed. */
  async turnPaper(paper: 'light' | 'dark'): Promise<void> {
    await this.driver.executeScript(
      `localStorage.setItem('theme', arguments[0])
      window.dispatchEvent(new StorageEvent('storage', { key: 'theme' }))`,
      paper,
    )
    const isStill = 'return document.getAnimations().length === 0'
    await this.driver.wait(async () => await this.driver.executeScript(isStill), 5000)
  }

  /** What the browser complained about since it was last asked; a blocked style or script is a defect. */
  async complaints(): Promise<string[]> {
    const entries = await this.driver.manage().logs().get('browser')
    return entries.filter((entry) => entry.level.value >= 1000).map((entry) => entry.message)
  }
}

const quoted = (text: string): string => (text.includes('"') ? `'${text}'` : `"${text}"`)
