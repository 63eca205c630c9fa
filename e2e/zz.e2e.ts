import { createRequire } from 'node:module'
const require = createRequire(import.meta.url)
import { it } from 'vitest'
import { ADDRESS, usePage } from './support/page'
import { AS_PERFORMED } from './support/rigs'
const page = usePage()
it('x', async () => {
  for (let i = 0; i < 4; i++) {
    const t = Date.now(); const at = (w: string) => require('node:fs').appendFileSync('/tmp/zz.txt', `${i} ${w} ${Date.now() - t}\n`)
    await page.open('/desk', AS_PERFORMED); at('open')
    await page.firstFindings(); at('findings')
    await page.driver.get(ADDRESS + '/favicon.svg'); at('quiet')
    await page.devTools('Storage.clearDataForOrigin', { origin: ADDRESS, storageTypes: 'all' }); at('clear')
    await page.driver.get(ADDRESS + '/desk'); at('get'); await page.find('[data-testid=findings-count]'); at('count there'); await page.firstFindings(); at('counted')
    await page.click('[data-control="fader-1"]'); at('click'); await page.text('aside'); at('text')
  }
})
