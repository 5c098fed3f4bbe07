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
    const wanted = await this.driver.executeScript<WebElement[]>(tabbable)
    const reached = new Set<string>()
    const wrong: string[] = []
    for (let step = 0; step <= wanted.length; step += 1) {
      reached.add(await (await this.driver.switchTo().activeElement()).getId())
      await this.driver.actions().sendKeys(Key.TAB).perform()
      if (!(await this.holdsFocus('[role=dialog]')))
        wrong.push(`the focus left the dialog for ${await this.focused()}`)
    }
    for (const one of wanted) {
      if (!reached.has(await one.getId())) wrong.push(`${await this.name(one)} is not reached`)
    }
    return wrong
  }
}
