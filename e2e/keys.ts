import { Key, type WebDriver, type WebElement } from 'selenium-webdriver'

/** Everything in the topmost dialog that Tab should come to; of radios that belong together one. */
const tabbable = `
  const within = [...document.querySelectorAll('[role=dialog]')].at(-1)
  const isOfGroup = (one) => one.type === 'radio' && one.name !== ''
  const stops = (one) => one.checked || !within.querySelector('[type=radio][name="' + one.name + '"]:checked')
  const groups = new Set()
  return [...within.querySelectorAll('a[href], button, input, textarea, [tabindex]:not([aria-hidden=true]), [contenteditable=true]')].filter((one) => {
    if (one.tabIndex < 0 || one.disabled || !one.checkVisibility({ visibilityProperty: true })) return false
    if (!isOfGroup(one)) return true
    if (groups.has(one.name) || !stops(one)) return false
    groups.add(one.name)
    return true
  })`

/** Notes in `window.walk` what receives the focus. */
const visits = `const visit = (window.visit ??= ({ target }) => window.walk.visited.add(target));`

const nameOf = `
  const one = arguments[0]
  return one === null || one === document.body ? 'nothing' : (one.getAttribute('aria-label') ?? one.labels?.[0]?.textContent ?? one.textContent).trim() || one.outerHTML.slice(0, 120)`

/** How a journey touches a page by keys alone. */
export class Keys {
  readonly driver: WebDriver

  constructor(driver: WebDriver) {
    this.driver = driver
  }

  async press(...keys: string[]): Promise<void> {
    await this.driver
      .actions()
      .sendKeys(...keys)
      .perform()
  }

  /** Waits until as many things like this are seen. @returns whether they came to be */
  async areSeen(css: string, count: number): Promise<boolean> {
    return await this.driver
      .wait(async () => (await this.count(css)) === count, 3000, undefined, 20)
      .then(() => true)
      .catch(() => false)
  }

  /** Puts the focus where Tab could put it. @throws where Tab could not */
  async goTo(element: WebElement): Promise<void> {
    const reached = await this.driver.executeScript<boolean>(
      'arguments[0].focus(); return arguments[0].tabIndex >= 0 && document.activeElement === arguments[0]',
      element,
    )
    if (!reached) throw new Error(`${await this.name(element)} is not reached by Tab`)
  }

  async name(element: WebElement): Promise<string> {
    return await this.driver.executeScript<string>(nameOf, element)
  }

  /** Opens the menu of a control and takes an entry of it. @throws where arrows do not come to it */
  async takeFromMenu(control: WebElement, entry: string): Promise<void> {
    await this.goTo(control)
    await this.press(Key.ENTER)
    await this.areSeen('[role=menu]', 1)
    const at = `const one = document.activeElement
      return document.getElementById(one.getAttribute('aria-activedescendant') ?? '')?.textContent.trim() ?? ''`
    for (let step = 0; step < 20; step += 1) {
      if ((await this.driver.executeScript<string>(at)) === entry)
        return void (await this.press(Key.ENTER))
      await this.press(Key.ARROW_DOWN)
    }
    throw new Error(`no arrow comes to ${entry}`)
  }

  /** The name of what has the focus. */
  async focused(): Promise<string> {
    return await this.driver.executeScript<string>(
      `return (function () { ${nameOf} })(document.activeElement)`,
    )
  }

  async holdsFocus(css: string): Promise<boolean> {
    return await this.driver.executeScript<boolean>(
      `return [...document.querySelectorAll(arguments[0])].at(-1)?.contains(document.activeElement) ?? false`,
      css,
    )
  }

  async count(css: string): Promise<number> {
    return await this.driver.executeScript<number>(
      'return [...document.querySelectorAll(arguments[0])].filter((one) => one.checkVisibility()).length',
      css,
    )
  }

  /** Goes through the topmost dialog by Tab until it is round. @returns what it did not come to, and where the focus left the dialog */
  async walkDialog(): Promise<string[]> {
    const stops = await this.driver.executeScript<number>(
      `${visits}
      const stops = (function () { ${tabbable} })()
      window.walk = { stops, visited: new Set([document.activeElement]) }
      document.addEventListener('focusin', visit)
      return stops.length`,
    )
    await this.press(...Array.from({ length: stops + 1 }, () => Key.TAB))
    return await this.driver.executeScript<string[]>(
      `${visits}
      document.removeEventListener('focusin', window.visit)
      const name = function () { ${nameOf} }
      const within = [...document.querySelectorAll('[role=dialog]')].at(-1)
      const { stops, visited } = window.walk
      return [
        ...[...visited].filter((stop) => !within.contains(stop)).map((stop) => 'the focus left the dialog for ' + name(stop)),
        ...stops.filter((stop) => !visited.has(stop)).map((stop) => name(stop) + ' is not reached'),
      ]`,
    )
  }
}
