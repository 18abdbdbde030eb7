import { spawn, type ChildProcess } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import puppeteer, { type Browser, type ElementHandle, type KeyInput, type Page } from 'puppeteer-core'
import type { OpenedProject, ProjectSummary } from '@moth-lamp/contract'

export const root = fileURLToPath(new URL('..', import.meta.url))

export const freePort = (): Promise<number> =>
  new Promise<number>((resolve) => {
    const probe = createServer()
    probe.listen(0, '127.0.0.1', () => {
      const address = probe.address()
      probe.close(() => resolve(typeof address === 'object' && address ? address.port : 0))
    })
  })

/** The built server as a process of its own, to be stopped and started again on the same port. */
export class ServerProcess {
  private process: ChildProcess | null = null
  private databaseUrl: string | null = null

  /** On a port that is free, or the one that is given; `folder`: where it is built. */
  constructor(
    private database: () => Promise<string>,
    public port = 0,
    private folder = root,
  ) {}

  async start(): Promise<string> {
    this.port ||= await freePort()
    this.databaseUrl ??= await this.database()
    const child = spawn(process.execPath, [join(this.folder, 'packages/server/dist/main.js')], {
      env: {
        ...process.env,
        DATABASE_URL: this.databaseUrl,
        PORT: String(this.port),
        MOTH_LAMP_ROOT: this.folder,
        LOG_LEVEL: 'silent',
      },
      stdio: ['ignore', 'pipe', 'inherit'],
    })
    this.process = child
    await new Promise<void>((resolve, reject) => {
      child.stdout!.on('data', (text: Buffer) => String(text).includes('Moth Lamp is at') && resolve())
      child.on('exit', (code) => reject(new Error(`the server ended with ${code}`)))
    })
    return this.url
  }

  get url(): string {
    return `http://127.0.0.1:${this.port}`
  }

  /** A project as the server has it. */
  async opened(id: string): Promise<OpenedProject> {
    return (await (await fetch(`${this.url}/api/projects/${id}`)).json()) as OpenedProject
  }

  async projects(): Promise<ProjectSummary[]> {
    return (await (await fetch(`${this.url}/api/projects`)).json()) as ProjectSummary[]
  }

  /** Posts JSON, and reads the answer, which must be a success. */
  async post<T>(path: string, body: unknown): Promise<T> {
    const answer = await fetch(`${this.url}/api${path}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    })
    if (!answer.ok) throw new Error(`${path}: ${answer.status} ${await answer.text()}`)
    return (await answer.json()) as T
  }

  async stop(): Promise<void> {
    const child = this.process
    this.process = null
    if (!child) return
    child.removeAllListeners('exit')
    await new Promise((resolve) => {
      child.on('exit', resolve)
      child.kill('SIGTERM')
    })
  }
}

/** Patience on a slow machine, ms; a result that has come is not waited for. */
export const patienceMs = Number(process.env['PATIENCE'] ?? 120_000)

const defaultViewport = { width: 1280, height: 800 }

/**
 * Debian's Chromium without a screen, made for that: what a window would have around the page is not there to be kept going. Without
 * its calls home, which a closed network refuses.
 */
export const launchChromium = (profile: string): Promise<Browser> =>
  puppeteer.launch({
    executablePath: '/usr/bin/chromium-headless-shell',
    headless: 'shell',
    userDataDir: profile,
    defaultViewport,
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
      // Tabs of one server share a process, as on a machine with little memory, and what was compiled for one is there for the next.
      '--process-per-site',
      '--force-prefers-reduced-motion',
      // Letters as wide as on a desktop.
      '--font-render-hinting=slight',
    ],
  })

/** A Chromium with a profile of its own, and what ends both. */
export async function ownChromium(): Promise<{ browser: Browser; end: () => Promise<void> }> {
  const profile = mkdtempSync(join(tmpdir(), 'moth-lamp-chromium-'))
  const browser = await launchChromium(profile)
  const end = async () => {
    await browser.close()
    rmSync(profile, { recursive: true, force: true, maxRetries: 5 })
  }
  return { browser, end }
}

/** Chromium; every console error, page error and failed request counts, unless it is looked away from. */
export class Chromium {
  private browser!: Browser
  /** Ends the browser. */
  private end!: () => Promise<void>
  readonly faults: string[] = []
  /** While the server is away on purpose, failed requests are no fault. */
  serverAway = false
  /** Pages of the test that runs: each keeps a panel going, which the tests after it need not pay for. */
  private passing: Page[] | null = null

  /** One of its own. */
  async start(): Promise<void> {
    ;({ browser: this.browser, end: this.end } = await ownChromium())
  }

  /** One that runs, and goes on when this is through with it: its pages are closed, and it holds nothing of that server's any more. */
  async join(endpoint: string, url: string): Promise<void> {
    this.browser = await puppeteer.connect({ browserWSEndpoint: endpoint, defaultViewport })
    const page = await this.browser.newPage()
    await page.goto(`${url}/moth.svg`)
    await page.evaluate(async () => {
      localStorage.clear()
      // The chunk cache is kept, as in the browser of a returning user.
      for (const { name } of await indexedDB.databases())
        if (name !== 'moth-lamp-chunks')
          await new Promise((resolve) => Object.assign(indexedDB.deleteDatabase(name!), { onsuccess: resolve, onerror: resolve }))
    })
    await page.goto('about:blank')
    this.end = async () => {
      for (const other of await this.browser.pages()) if (other !== page) await other.close()
      await page.close()
      await this.browser.disconnect()
    }
  }

  testBegins(): void {
    this.passing = []
  }

  async testEnds(): Promise<void> {
    const pages = this.passing ?? []
    this.passing = null
    for (const page of pages) if (!page.isClosed()) await page.close()
  }

  /** A page; one that is opened in a test goes with it, unless it stays for those that follow. */
  async page(stays: '' | 'stays' = ''): Promise<Page> {
    const page = await this.browser.newPage()
    page.setDefaultTimeout(patienceMs)
    if (!stays) this.passing?.push(page)
    // Functions evaluated in the page by a script under tsx are named by a helper that the page lacks.
    await page.evaluateOnNewDocument('globalThis.__name = (named) => named')
    const fault = (text: string) => void (this.serverAway || this.faults.push(text))
    page.on('pageerror', (error) => fault(`page error: ${String(error)}`))
    page.on(
      'console',
      (message) => message.type() === 'error' && fault(`console: ${message.text()} ${message.location().url ?? ''}`),
    )
    page.on('requestfailed', (request) => {
      // A page that is left takes its requests with it.
      if (request.failure()?.errorText !== 'net::ERR_ABORTED') fault(`failed: ${request.url()} ${request.failure()?.errorText}`)
    })
    page.on('workercreated', (worker) => worker.on('error', (error) => fault(`worker: ${String(error)}`)))
    return page
  }

  stop = (): Promise<void> => this.end()
}

/**
 * The first thing that is seen and has that name and that role ('': any), where the name is the plain one: a label of its own, the
 * words of a button, an option or a link, the label of a field. Runs in the page.
 */
function seenByName(name: string, role: string): Element | null {
  const implicit: Record<string, string> = { BUTTON: 'button', A: 'link', TEXTAREA: 'textbox' }
  const ofInput: Record<string, string> = { text: 'textbox', search: 'searchbox', checkbox: 'checkbox', radio: 'radio' }
  const roleOf = (e: Element) =>
    e.getAttribute('role') ?? (e instanceof HTMLInputElement ? ofInput[e.type] : implicit[e.tagName]) ?? 'another'
  const wordsOf = (e: Node): string =>
    e instanceof Element && e.getAttribute('aria-hidden') === 'true'
      ? ''
      : e.nodeType === Node.TEXT_NODE
        ? (e.textContent ?? '')
        : [...e.childNodes].map(wordsOf).join('')
  const isCalled = (words: string) => words.replaceAll(/\s+/g, ' ').trim() === name
  const byWords = 'button, a, [role="option"], [role="menuitem"], [role="tab"], [role="radio"]'
  for (const e of document.querySelectorAll(`[aria-label], label, ${byWords}`)) {
    const own = e.getAttribute('aria-label')
    if (own === null && (e.hasAttribute('aria-labelledby') || !isCalled(wordsOf(e)))) continue
    if (own !== null && own !== name) continue
    const found = own === null && e instanceof HTMLLabelElement ? e.control : e
    if (!found || (role && roleOf(found) !== role) || found.closest('[aria-hidden="true"], [inert]')) continue
    const { width, height } = found.getBoundingClientRect()
    if (width > 0 && height > 0 && found.checkVisibility({ visibilityProperty: true })) return found
  }
  return null
}

/** Hands of a person: finds things by their name and role, clicks, types, reads. */
export class Hand {
  constructor(readonly page: Page) {}

  /**
   * Opens a project at a station. From another project it goes there without loading the interface anew, and from the same one by
   * the shelf: what is on the screen is made anew all the same.
   */
  async opens(url: string): Promise<void> {
    const projectOf = (path: string) => path.split('/').slice(0, 5).join('/')
    const here = this.page.url()
    if (!here.startsWith(`${new URL(url).origin}/project/`)) return void (await this.page.goto(url))
    const { pathname } = new URL(url)
    for (const path of projectOf(here) === projectOf(url) ? ['/', pathname] : [pathname])
      await this.page.evaluate(async (to) => {
        const before = document.querySelector('main')
        history.pushState({}, '', to)
        dispatchEvent(new PopStateEvent('popstate'))
        while (before?.isConnected) await new Promise(requestAnimationFrame)
      }, path)
  }

  /** Goes to a station of the project that is open. */
  async station(name: string): Promise<void> {
    await this.clickOn('nav[aria-label="Stations"] a', name)
    await this.page.waitForFunction(
      (wanted) =>
        document.querySelector('nav[aria-label="Stations"] [aria-current="page"]')?.textContent.includes(wanted) &&
        document.querySelector('main')?.firstElementChild,
      { polling: 50 },
      name,
    )
  }

  async find(name: string, role = '', timeout = patienceMs): Promise<ElementHandle<Element>> {
    const selector = `::-p-aria([name="${name}"]${role ? `[role="${role}"]` : ''})`
    const untilMs = Date.now() + timeout
    for (let look = 0; ; look++) {
      const named = (await this.page.evaluateHandle(seenByName, name, role).catch(() => null))?.asElement()
      if (named) return named as ElementHandle<Element>
      // The tree of whoever does not see is made anew for each question: asked less often, of what is called in another way.
      if (look % 4 === 0) {
        // Between two looks the page may have taken it out again.
        const found = await this.page.$(selector).catch(() => null)
        if (await found?.isVisible().catch(() => false)) return found as ElementHandle<Element>
      }
      if (Date.now() > untilMs)
        throw new Error(
          `nothing called ${name} is seen within ${timeout / 1000} s on the screen, which says: ${await this.says()}`,
        )
      await new Promise((resolve) => setTimeout(resolve, 50))
    }
  }

  async click(name: string, role?: string): Promise<void> {
    await this.clickIt(await this.find(name, role))
  }

  /** Waits for the first thing of a selector that is seen and has these words in it, and clicks it. */
  async clickOn(selector: string, words = '', timeout = patienceMs): Promise<void> {
    const found = await this.page
      .waitForFunction(
        (wanted, text) =>
          [...document.querySelectorAll(wanted)].find((e) => {
            const { width, height } = e.getBoundingClientRect()
            const has = (other: Element) => other.textContent.includes(text)
            const inner = [...e.children].some((child) => child.matches(wanted) && has(child))
            return has(e) && !inner && width > 0 && height > 0 && e.checkVisibility({ visibilityProperty: true })
          }),
        { timeout, polling: 50 },
        selector,
        words,
      )
      .catch(() => null)
    if (!found) throw new Error(`no ${selector} with “${words}” is seen within ${timeout / 1000} s`)
    await this.clickIt(found as ElementHandle<Element>)
  }

  /** Clicks the middle of what is to be seen of something, once it is scrolled to and stands still: what opens finds its place first. */
  private async clickIt(found: ElementHandle<Element>, count = 1): Promise<void> {
    const [x, y] = await found.evaluate(async (e) => {
      e.scrollIntoView({ block: 'nearest', inline: 'nearest' })
      const middle = (from: number, to: number, most: number) => (Math.max(0, from) + Math.min(most, to)) / 2
      const place = () => {
        const box = e.getBoundingClientRect()
        return [middle(box.left, box.right, innerWidth), middle(box.top, box.bottom, innerHeight)] as const
      }
      let last = place()
      for (let frames = 0; frames < 60; frames++) {
        await new Promise(requestAnimationFrame)
        const now = place()
        if (now[0] === last[0] && now[1] === last[1]) break
        last = now
      }
      return last
    })
    await this.page.mouse.click(x, y, { count })
  }

  /** Waits until a text is to be read on the screen. */
  async sees(text: string, timeout = patienceMs): Promise<void> {
    await this.page
      .waitForFunction(
        (wanted, letters) =>
          // Text that is nowhere in the document needs no layout to know that it is not seen.
          document.body.textContent.replaceAll(/\s/g, '').toLowerCase().includes(letters) &&
          document.body.innerText.includes(wanted),
        { timeout, polling: 50 },
        text,
        text.replaceAll(/\s/g, '').toLowerCase(),
      )
      .catch(async () => {
        throw new Error(`“${text}” is not on the screen, which says: ${await this.says()}`)
      })
  }

  /** All that is to be read on the screen, in a line. */
  private async says(): Promise<string> {
    return (await this.reads()).replaceAll('\n', ' | ').slice(0, 3000)
  }

  /** Waits until the bar says that all is saved. */
  async isSaved(): Promise<void> {
    await this.page.waitForFunction(() => document.querySelector('header [role="status"]')?.textContent?.startsWith('Saved'), {
      polling: 50,
    })
  }

  /** The glass, once it has been the same for a moment and nothing is being made for it. */
  async quiet(): Promise<Uint8Array> {
    let last = 0
    for (let same = 0; same < 4;) {
      await new Promise((resolve) => setTimeout(resolve, 120))
      const next = await this.glassHash()
      same = next !== 0 && next === last ? same + 1 : 0
      last = next
    }
    return this.glass()
  }

  /** Of the pixels of the glass on the screen; 0 while all of them are black, or letters and pictures are being made. */
  private glassHash(): Promise<number> {
    return this.page.evaluate(() => {
      const canvas = document.querySelector<HTMLCanvasElement>('[data-bezel] canvas')
      if (!canvas || canvas.closest('[aria-busy="true"]')) return 0
      const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height)
      const pixels = new Uint32Array(data.buffer)
      let hash = 1
      let inked = false
      for (const pixel of pixels) {
        hash = Math.imul(hash ^ pixel, 16777619)
        inked ||= (pixel & 0xffffff) !== 0
      }
      return inked ? hash : 0
    })
  }

  async reads(): Promise<string> {
    return this.page.evaluate(() => document.body.innerText)
  }

  /** Replaces what a field holds, all at once as by pasting, and takes it with Enter. */
  async fill(name: string, text: string, role?: string): Promise<void> {
    await this.click(name, role)
    await this.page.keyboard.down('Control')
    await this.page.keyboard.press('a')
    await this.page.keyboard.up('Control')
    await this.page.keyboard.sendCharacter(text)
    await this.page.keyboard.press('Enter')
  }

  /** Opens a list by its name and takes what is called so. */
  async choose(name: string, label: string): Promise<void> {
    const list = await this.find(name, 'combobox')
    await this.clickIt(list)
    const option = await this.find(label, 'option').catch(() => null)
    if (!option) throw new Error(`${name} does not offer ${label}`)
    await this.clickIt(option)
    // While the list fades it still lies over what is below it.
    await this.page.waitForFunction(
      (e, wanted) =>
        e.textContent?.trim() === wanted &&
        e.getAttribute('aria-expanded') === 'false' &&
        ![...document.querySelectorAll('[role="option"]:not(#add-list *)')].some((o) => o.checkVisibility()),
      { timeout: patienceMs, polling: 50 },
      list,
      label,
    )
  }

  /**
   * Where a pixel of the glass is on the screen. The glass finds its size when the window has told how much room there is, and what
   * has just been chosen from a menu may still lie over it.
   */
  async at(x: number, y: number): Promise<[number, number]> {
    return this.page.evaluate(
      async (x, y) => {
        const frame = () => new Promise(requestAnimationFrame)
        const canvasOf = () => document.querySelector<HTMLCanvasElement>('[data-bezel] canvas')
        const pointOf = (canvas: HTMLCanvasElement): [number, number] => {
          const box = canvas.getBoundingClientRect()
          return [box.x + (x * box.width) / canvas.width, box.y + (y * box.width) / canvas.width]
        }
        let before = ''
        for (let same = 0, frames = 0; same < 3; frames++) {
          await frame()
          const canvas = canvasOf()
          const at = canvas && canvas.clientWidth > 0 ? pointOf(canvas) : null
          const isCovered = at !== null && frames < 120 && document.elementFromPoint(...at)?.closest('[data-portal]')
          same = at && !isCovered && String(at) === before ? same + 1 : 0
          before = String(at)
        }
        return pointOf(canvasOf()!)
      },
      x,
      y,
    )
  }

  /** Clicks on the glass at its own pixels. */
  async press(x: number, y: number, button: 'left' | 'right' = 'left', count = 1): Promise<void> {
    await this.page.mouse.click(...(await this.at(x, y)), { button, count })
  }

  /** Drags on the glass from one of its pixels to another. */
  async drag(from: readonly [number, number], to: readonly [number, number]): Promise<void> {
    await this.page.mouse.move(...(await this.at(...from)))
    await this.page.mouse.down()
    await this.page.mouse.move(...(await this.at(...to)), { steps: 5 })
    await this.page.mouse.up()
  }

  /** Presses keys one after another: `a`, `Enter`, `Control+d`; `=text` is typed. */
  async keys(...keys: string[]): Promise<void> {
    for (const key of keys) {
      if (key.startsWith('=')) await this.page.keyboard.type(key.slice(1))
      else {
        const [last, ...held] = key.split('+').reverse() as [KeyInput, ...KeyInput[]]
        for (const k of held) await this.page.keyboard.down(k)
        await this.page.keyboard.press(last)
        for (const k of held) await this.page.keyboard.up(k)
      }
      await new Promise((resolve) => setTimeout(resolve, 40))
    }
  }

  /** Seconds since power-on, as the clock of Bench says. */
  async secondsOn(): Promise<number> {
    return this.page.$eval('[aria-label="Time since power-on"]', (e) => parseFloat(e.textContent.replaceAll(/\s/g, '')))
  }

  /** The pixels of the glass on the screen, RGBA. */
  async glass(): Promise<Uint8Array> {
    const text = await this.page.$eval('[data-bezel] canvas', (c) => {
      const canvas = c as HTMLCanvasElement
      const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height)
      let out = ''
      for (let i = 0; i < data.length; i += 8192) out += String.fromCharCode(...data.subarray(i, i + 8192))
      return btoa(out)
    })
    return new Uint8Array(Buffer.from(text, 'base64'))
  }
}
