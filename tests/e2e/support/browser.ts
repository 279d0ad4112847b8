import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import AxeBuilder from '@axe-core/webdriverjs';
import { Builder, By, logging, until, type WebDriver, type WebElement } from 'selenium-webdriver';
import chrome from 'selenium-webdriver/chrome';

// Debian's own driver is used; nothing is looked up on the network.
process.env.SE_OFFLINE = 'true';
process.env.SE_AVOID_STATS = 'true';

const WAIT_MS = 45_000;

/** A headless Chromium of 1280×800 with a profile of its own. */
/** No animation that has an end is running. */
const STANDS_STILL =
  'return document.getAnimations().every(({ playState, effect }) => playState !== "running" || effect.getComputedTiming().endTime === Infinity)';

export class Browser {
  private constructor(
    readonly driver: WebDriver,
    private readonly profile: string,
  ) {}

  static async open(width = 1280, height = 800): Promise<Browser> {
    const profile = fs.mkdtempSync(path.join(os.tmpdir(), 'typica-chromium-'));
    const options = new chrome.Options();
    options.setChromeBinaryPath('/usr/bin/chromium');
    options.addArguments(
      '--headless=new',
      '--no-sandbox',
      '--disable-dev-shm-usage',
      '--disable-gpu',
      '--force-device-scale-factor=1',
      `--window-size=${width},${height}`,
      `--user-data-dir=${profile}`,
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
    );
    const preferences = new logging.Preferences();
    preferences.setLevel('browser', logging.Level.ALL);
    options.setLoggingPrefs(preferences);
    const driver = await new Builder()
      .forBrowser('chrome')
      .setChromeOptions(options)
      .setChromeService(new chrome.ServiceBuilder('/usr/bin/chromedriver'))
      .build();
    const browser = new Browser(driver, profile);
    await browser.resize(width, height);
    return browser;
  }

  /** The page's size in CSS px; the window's counts its frame. */
  async resize(width: number, height: number): Promise<void> {
    await (this.driver as chrome.Driver).sendDevToolsCommand('Emulation.setDeviceMetricsOverride', {
      width,
      height,
      deviceScaleFactor: 1,
      mobile: false,
    });
  }

  /** Opens the drawer that holds a button, where a narrow window keeps it in one. */
  async reveal(button: string): Promise<void> {
    const found = await this.text(button, 'button');
    if (await found.isDisplayed()) return;
    const drawer = (await found.findElements(By.xpath('ancestor::aside[@aria-label="Layers"]'))).length > 0;
    await this.clickText(drawer ? 'Layers' : 'Proof');
  }

  /** Faults of accessibility that axe finds in what is in view (WCAG 2.2 AA). */
  async faults(): Promise<string[]> {
    // What comes or goes is seen through while it does: it is looked at when it stands.
    await this.until(() => this.driver.executeScript<boolean>(STANDS_STILL), 'nothing moves');
    const { violations } = await new AxeBuilder(this.driver)
      .withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'])
      .analyze();
    return violations.map((v) => `${v.id}: ${v.nodes[0]?.html}`);
  }

  /** One event of the mouse, at a place in CSS px: faster than the driver's actions, which wait for the page. */
  mouse(
    type: 'mouseMoved' | 'mousePressed' | 'mouseReleased',
    x: number,
    y: number,
    buttons: number,
  ): Promise<unknown> {
    return (this.driver as chrome.Driver).sendDevToolsCommand('Input.dispatchMouseEvent', {
      type,
      x,
      y,
      button: 'left',
      buttons,
      clickCount: 1,
    });
  }

  /** Middle of the first or last that a CSS selector finds, in CSS px. */
  middleOf(css: string, which: 'first' | 'last' = 'first'): Promise<{ x: number; y: number }> {
    return this.driver.executeScript(
      `const all = document.querySelectorAll(${JSON.stringify(css)}); const r = all[${which === 'first' ? '0' : 'all.length - 1'}].getBoundingClientRect(); return { x: r.x + r.width / 2, y: r.y + r.height / 2 };`,
    );
  }

  async close(): Promise<void> {
    await this.driver.quit();
    fs.rmSync(this.profile, { recursive: true, force: true });
  }

  /** Opens a page; one of ours is waited for until it listens: a click on what the server sent is lost before that. */
  async go(url: string): Promise<void> {
    await this.driver.get(url);
    await this.until(
      () =>
        this.driver.executeScript<boolean>(
          'return !self.__next_f || [...document.querySelectorAll("button")].every((one) => Object.keys(one).some((key) => key.startsWith("__reactProps")))',
        ),
      `${url} to listen`,
    );
  }

  async find(css: string): Promise<WebElement> {
    return this.driver.wait(until.elementLocated(By.css(css)), WAIT_MS, `no ${css}`);
  }

  /** The first visible element whose own or contained text is (or has) this, among `tag`. */
  async text(text: string, tag = '*', exact = true): Promise<WebElement> {
    const quoted = `concat('${text.replace(/'/g, `', "'", '`)}', '')`;
    const test = exact ? `normalize-space(.)=${quoted}` : `contains(normalize-space(.), ${quoted})`;
    return this.driver.wait(until.elementLocated(By.xpath(`//${tag}[${test}]`)), WAIT_MS, `no ${tag} with “${text}”`);
  }

  /** Clicks, trying again while something still moves or covers it. */
  async click(what: string | WebElement): Promise<void> {
    await this.driver.wait(async () => {
      try {
        const element = typeof what === 'string' ? await this.find(what) : what;
        await element.click();
        return true;
      } catch (error) {
        const name = (error as Error).name;
        if (
          name === 'ElementClickInterceptedError' ||
          (name === 'StaleElementReferenceError' && typeof what === 'string') ||
          name === 'ElementNotInteractableError'
        )
          return false;
        throw error;
      }
    }, WAIT_MS);
  }

  clickText = async (text: string, tag = 'button', exact = true): Promise<void> =>
    this.click(await this.text(text, tag, exact));

  /** Replaces what a field holds. */
  async fill(css: string, value: string): Promise<void> {
    const field = await this.find(css);
    await field.sendKeys('\uE009a\uE000', value);
  }

  /** The control of a label. */
  async labelled(label: string): Promise<WebElement> {
    const element = await this.driver.wait(
      until.elementLocated(By.xpath(`//label[normalize-space(.)='${label}']`)),
      WAIT_MS,
      `no label “${label}”`,
    );
    return this.driver.findElement(By.id((await element.getAttribute('for'))!));
  }

  /** Waits until the bench says that everything is saved. */
  saved(): Promise<void> {
    return this.until(async () => /^(All saved|Saved )/.test(await this.seen('[data-testid=save-state]')), 'saved');
  }

  /** Waits until `check` is true; `what` is told when it never is. */
  async until(check: () => Promise<boolean>, what: string, ms = WAIT_MS): Promise<void> {
    await this.driver.wait(() => check().catch(() => false), ms, what);
  }

  async seen(css: string): Promise<string> {
    return (await this.find(css)).getText();
  }

  async picture(file: string): Promise<void> {
    fs.mkdirSync(path.dirname(file), { recursive: true });
    fs.writeFileSync(file, Buffer.from(await this.driver.takeScreenshot(), 'base64'));
  }

  /** Errors in the console since the last call. */
  async consoleErrors(): Promise<string[]> {
    const entries = await this.driver.manage().logs().get('browser');
    return entries.filter((entry) => entry.level.value >= logging.Level.SEVERE.value).map((entry) => entry.message);
  }

  async signIn(origin: string, email: string, password: string): Promise<void> {
    await this.go(`${origin}/sign-in`);
    await (await this.labelled('Email')).sendKeys(email);
    await (await this.labelled('Password')).sendKeys(password);
    await this.click('button[type=submit]');
    await this.driver.wait(until.urlContains('/range'), WAIT_MS);
  }
}
