import { existsSync } from 'node:fs'
import { run } from './project.mjs'

const CHROMIUM = ['/usr/bin/chromium', '/usr/bin/chromium-browser', '/usr/bin/google-chrome']
const DRIVER = ['/usr/bin/chromedriver', '/usr/lib/chromium-browser/chromedriver']
const ADVICE =
  'Install Chromium and its driver (Debian: apt-get install chromium chromium-driver), or name them in CHROMIUM and CHROMEDRIVER.'

const first = (named, places) => (named ? [named] : places).find((path) => existsSync(path))

const found = () => {
  const chromium = first(process.env.CHROMIUM, CHROMIUM)
  const driver = first(process.env.CHROMEDRIVER, DRIVER)
  return chromium && driver ? { CHROMIUM: chromium, CHROMEDRIVER: driver } : null
}

/** Second readers for what is written: by the variable that names them, where they are and the package they come in. */
const SECOND_READERS = {
  XMLLINT: { path: '/usr/bin/xmllint', package: 'libxml2-utils' },
  MIDICSV: { path: '/usr/bin/midicsv', package: 'midicsv' },
  PDFTOTEXT: { path: '/usr/bin/pdftotext', package: 'poppler-utils' },
  PDFTOPPM: { path: '/usr/bin/pdftoppm', package: 'poppler-utils' },
  PDFINFO: { path: '/usr/bin/pdfinfo', package: 'poppler-utils' },
  PDFFONTS: { path: '/usr/bin/pdffonts', package: 'poppler-utils' },
  CSVMIDI: { path: '/usr/bin/csvmidi', package: 'midicsv' },
}

/** Those of them that are there, installed through apt where they are missing and that is possible. */
async function ensureSecondReaders() {
  const missing = Object.values(SECOND_READERS).filter(({ path }) => !existsSync(path))
  if (missing.length > 0 && process.getuid?.() === 0 && existsSync('/usr/bin/apt-get')) {
    const env = { DEBIAN_FRONTEND: 'noninteractive' }
    const names = [...new Set(missing.map((each) => each.package))]
    const packages = ['install', '-y', '--no-install-recommends', ...names]
    const first = await run('apt-get', packages, { quiet: true, env })
    if (first.code !== 0) {
      await run('apt-get', ['update'], { quiet: true, env })
      await run('apt-get', packages, { quiet: true, env })
    }
  }
  return Object.fromEntries(
    Object.entries(SECOND_READERS).flatMap(([name, { path }]) => (existsSync(path) ? [[name, path]] : [])),
  )
}

/** The browser and its driver, installed through apt where they are missing and that is possible. */
export async function ensureBrowser() {
  if (found()) return { ok: true, env: { ...found(), ...(await ensureSecondReaders()) } }
  const isRoot = process.getuid?.() === 0
  if (!isRoot || !existsSync('/usr/bin/apt-get')) return { ok: false, advice: ADVICE }
  console.log('Installing Chromium and ChromeDriver…')
  const env = { DEBIAN_FRONTEND: 'noninteractive' }
  await run('apt-get', ['update'], { quiet: true, env })
  const install = await run(
    'apt-get',
    ['install', '-y', '--no-install-recommends', 'chromium', 'chromium-driver'],
    {
      quiet: true,
      env,
    },
  )
  const now = found()
  return now
    ? { ok: true, env: { ...now, ...(await ensureSecondReaders()) } }
    : { ok: false, advice: `${ADVICE}\n${install.output.slice(-2000)}` }
}
