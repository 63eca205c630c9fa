import { Agent, request } from 'node:http'
import { describe, expect, it } from 'vitest'
import { RULES, type Finding } from '../core/conflicts'
import { FILE_LIMITS, parseRig, RIG_VERSION, writeRig } from '../core/rig'
import { sendingCc, testController, testRig } from '../core/testing/rigs'
import { ADDRESS } from './support/address'

const get = async (path: string) => {
  const response = await fetch(`${ADDRESS}${path}`)
  return { status: response.status, body: await response.json() }
}
const post = async (path: string, body: string, type = 'application/json') => {
  const response = await fetch(`${ADDRESS}${path}`, {
    method: 'POST',
    body,
    headers: { 'content-type': type },
  })
  return { status: response.status, body: await response.json() }
}
const demo = async (state: string): Promise<any> => (await get(`/api/demo/${state}`)).body

/** A request with headers that `fetch` does not let through. */
const raw = (
  path: string,
  headers: Record<string, string>,
  method = 'GET',
  body = '',
): Promise<{ status: number; headers: Record<string, unknown>; body: string }> =>
  new Promise((resolve, reject) => {
    const { hostname, port } = new URL(ADDRESS)
    const asked = request({ hostname, port, path, method, headers }, (answer) => {
      const chunks: Buffer[] = []
      answer.on('data', (chunk: Buffer) => chunks.push(chunk))
      answer.on('end', () =>
        resolve({
          status: answer.statusCode ?? 0,
          headers: answer.headers,
          body: Buffer.concat(chunks).toString(),
        }),
      )
    })
    asked.on('error', reject)
    asked.end(body)
  })

describe('other pages and other names', () => {
  const json = { 'content-type': 'application/json' }

  it.each(['/', '/desk', '/api/health', '/favicon.svg'])(
    '%s comes with headers that keep it to itself',
    async (path) => {
      const { headers } = await raw(path, {})
      expect(headers['content-security-policy']).toContain("default-src 'self'")
      expect(headers['content-security-policy']).toContain("frame-ancestors 'none'")
      expect(headers).toMatchObject({ 'x-content-type-options': 'nosniff', 'referrer-policy': 'no-referrer' })
    },
  )

  it('are refused: a foreign name, a foreign page, a body without a type, a compressed body', async () => {
    expect((await raw('/api/health', { host: 'studio.example' })).status).toBe(403)
    expect((await raw('/api/health', { host: 'localhost:4317' })).status).toBe(200)
    const own = new URL(ADDRESS).host
    const from = (origin: string) =>
      raw('/api/check', { ...json, host: own, origin }, 'POST', '{}').then(({ status }) => status)
    expect(await from('http://studio.example')).toBe(403)
    expect(await from('null')).toBe(403)
    expect(await from(ADDRESS)).toBe(422)
    expect((await raw('/api/check', {}, 'POST', '{}')).status).toBe(415)
    const packed = await raw('/api/check', { ...json, 'content-encoding': 'gzip' }, 'POST', '{}')
    expect(packed.status).toBe(415)
    expect(packed.body).toContain('not compressed')
  })
})

describe('routes', () => {
  it('health answers', async () => {
    expect(await get('/api/health')).toEqual({ status: 200, body: { status: 'ok', format: RIG_VERSION } })
  })

  it('writes a sheet in every format, and says what there is where none is meant', async () => {
    const rig = JSON.stringify(await demo('as-performed'))
    const sheet = (path: string) =>
      fetch(`${ADDRESS}/api/sheets/${path}`, {
        method: 'POST',
        body: rig,
        headers: { 'content-type': 'application/json' },
      })
    const starts: ReadonlyArray<readonly [string, string, string]> = [
      ['card?of=umbrek&paper=own', 'application/pdf', '%PDF-1.'],
      ['card?of=umbrek&format=svg', 'image/svg+xml', '<svg xmlns'],
      ['map?of=kettlow&format=xlsx', 'application/vnd.openxmlformats', 'PK'],
      ['checklist?format=markdown', 'text/markdown', '# Set-up checklist'],
      ['lights?format=html', 'text/html', '<!doctype html>'],
      ['controller?of=syzra&format=csv', 'text/csv', 'Section,Control,Sends'],
    ]
    for (const [path, type, start] of starts) {
      const answer = await sheet(path)
      expect(answer.status, path).toBe(200)
      expect(answer.headers.get('content-type')).toContain(type)
      expect(
        Buffer.from(await answer.arrayBuffer())
          .toString('latin1')
          .slice(0, start.length),
      ).toBe(start)
    }
    const refusals: ReadonlyArray<readonly [string, number, string]> = [
      ['poem', 404, 'It has: card, controller'],
      ['card', 422, '?of=syzra'],
      ['card?of=nobody', 422, 'There are: syzra'],
      ['checklist?of=syzra', 422, 'leave out “of”'],
      ['map?of=kettlow&format=doc', 422, 'use pdf, xlsx'],
      ['map?of=kettlow&order=size', 422, 'use parameter, controller, scope'],
      ['card?of=umbrek&format=svg&card=99', 422, 'use 1 to'],
      ['lights?format=svg', 422, 'Only cards are drawn'],
    ]
    for (const [path, status, words] of refusals) {
      const answer = await sheet(path)
      expect(answer.status, path).toBe(status)
      expect((await answer.json()).error.message).toContain(words)
    }
    expect((await post('/api/sheets/card?of=syzra', '{}')).status).toBe(422)
  })

  it('schema describes the rig as JSON Schema', async () => {
    const { body } = await get('/api/schema')
    expect(body.$schema).toContain('2020-12')
    expect(body.required).toEqual(expect.arrayContaining(['format', 'version', 'name']))
    expect(Object.keys(body.properties)).toEqual(
      expect.arrayContaining(['controllers', 'destinations', 'passages']),
    )
  })

  it.each(['as-found', 'as-performed'])('demo %s is a valid rig', async (state) => {
    const rig = await demo(state)
    const result = parseRig(rig)
    if (!result.ok) throw new Error(result.problems[0]?.message)
    expect(JSON.parse(writeRig(result.rig))).toEqual(rig)
  })

  it('check finds each rule in the demo as found, with places, addresses and fixes', async () => {
    const { status, body } = await post('/api/check', JSON.stringify(await demo('as-found')))
    expect(status).toBe(200)
    const findings: Array<Finding & { fixes: unknown[] }> = body.findings
    const known = RULES.map(({ id }) => id).filter((id) => id !== 'full' && id !== 'key-sounds')
    expect(new Set(findings.map(({ rule }) => rule))).toEqual(new Set(known))
    for (const finding of findings) {
      expect(finding.message).toMatch(/\.$/)
      expect(finding.at.length + finding.things.length).toBeGreaterThan(0)
      expect(Array.isArray(finding.addresses)).toBe(true)
    }
    for (const rule of ['same-address', 'claimed', 'pair-broken', 'ghost', 'secondary', 'layer-jump'])
      expect(findings.find((finding) => finding.rule === rule)?.fixes.length, rule).toBeGreaterThan(0)
  })

  it('check finds nothing beyond advice as performed', async () => {
    const { body } = await post('/api/check', JSON.stringify(await demo('as-performed')))
    expect(body.findings.filter(({ severity }: Finding) => severity !== 'advice')).toEqual([])
  })
})

describe('trace', () => {
  const ask = async (rig: unknown, request: unknown) => post('/api/trace', JSON.stringify({ rig, request }))

  it('follows a gesture to every parameter that it moves, and a parameter back to its controls', async () => {
    const rig = await demo('as-found')
    const forward = await ask(rig, { kind: 'gesture', gesture: 'syzra/fader-2.slide' })
    expect(forward.status).toBe(200)
    const arriving = forward.body.traces.filter(({ broken }: { broken: unknown }) => broken === null)
    expect(arriving.length).toBeGreaterThan(1)
    const [{ destination, parameter }] = arriving
    const back = await ask(rig, { kind: 'parameter', destination, parameter })
    expect(back.body.traces.map(({ gesture }: { gesture: string }) => gesture)).toContain(
      'syzra/fader-2.slide',
    )
  })

  it('refuses what is not in the rig, with the path', async () => {
    const rig = await demo('as-found')
    const { status, body } = await ask(rig, { kind: 'gesture', gesture: 'syzra/nothing.turn' })
    expect(status).toBe(422)
    expect(JSON.stringify(body)).toContain('request.gesture')
    expect((await ask(rig, { kind: 'sideways' })).status).toBe(422)
    expect((await ask({}, { kind: 'gesture', gesture: 'a/b.turn' })).status).toBe(422)
  })
})

describe('rehearse', () => {
  it(
    'proves the demo as performed, and names the faults of the demo as found',
    { timeout: 120_000 },
    async () => {
      const clean = await post('/api/rehearse', JSON.stringify(await demo('as-performed')))
      expect(clean.status).toBe(200)
      expect(clean.body.findings.filter(({ weight }: { weight: string }) => weight === 'fault')).toEqual([])
      expect(clean.body.proven.length).toBeGreaterThan(150)
      const found = await post('/api/rehearse', JSON.stringify(await demo('as-found')))
      expect(
        found.body.findings.filter(({ weight }: { weight: string }) => weight === 'fault').length,
      ).toBeGreaterThan(20)
    },
  )

  it('refuses what is no rig, with the path', async () => {
    expect((await post('/api/rehearse', '{}')).status).toBe(422)
    expect((await post('/api/rehearse', 'no')).status).toBe(400)
  })
})

describe('allocate', () => {
  const ask = async (rig: unknown, request: unknown) =>
    post('/api/allocate', JSON.stringify({ rig, request }))

  it('plans by the kind alone, the same each time, with reasons, score and proof', async () => {
    const rig = await demo('as-found')
    const { status, body } = await ask(rig, { kind: 'repair' })
    expect(status).toBe(200)
    expect(body.score.errors).toBe(0)
    expect(body.bound).toBeNull()
    expect(body.changes.length).toBeGreaterThan(5)
    for (const change of body.changes) {
      expect(change.to).toMatch(/^\d+:/)
      expect(change.reason).toMatch(/\.$/)
    }
    expect(body.resolves.length).toBeGreaterThan(10)
    expect((await ask(rig, { kind: 'repair' })).body).toEqual(body)
  })

  it('gives the bound it reached where its steps are used up', async () => {
    const rig = await demo('as-performed')
    const { status, body } = await ask(rig, { kind: 'replan', steps: 0 })
    expect(status).toBe(200)
    expect(body.proven.length).toBeGreaterThan(0)
    expect(body.isLeast).toBe(false)
  })

  it.each([
    ['a kind that is not known', { kind: 'guess' }, /^request/],
    ['no kind', {}, /^request/],
    ['an option that is not known', { kind: 'fill', speed: 9 }, /^request/],
    ['a controller that is gone', { kind: 'make-room', controller: 'nobody' }, /^request\.controller/],
    [
      'everything avoided',
      { kind: 'fill', rules: [{ kind: 'avoid', low: 0, high: 127 }] },
      /^request\.rules/,
    ],
    ['channel 17', { kind: 'fill', policy: { kind: 'among', channels: [17] } }, /^request\.policy/],
  ])('refuses %s with 422 and the path', async (_, request, path) => {
    const { status, body } = await ask(await demo('as-found'), request)
    expect(status).toBe(422)
    expect(body.error.path).toMatch(path)
    expect(body.error.message).not.toBe('')
  })

  it('refuses a rig that is none with the path in it, and a body that is none', async () => {
    const wrong = await ask({ ...(await demo('as-found')), name: '' }, { kind: 'fill' })
    expect([wrong.status, wrong.body.error.path]).toEqual([422, 'rig.name'])
    expect((await post('/api/allocate', '{"rig": ')).status).toBe(400)
    expect((await post('/api/allocate', '[]')).status).toBe(422)
  })
})

describe('much to do', () => {
  /** Work for a second or two: 27 controllers of six knobs, all on one address. */
  const crowd = (): string => {
    const sends = Object.fromEntries([1, 2, 3, 4, 5, 6].map((n) => [`k${n}.turn`, sendingCc(20)]))
    const rig = testRig(Array.from({ length: 27 }, (_, index) => testController(`c${index}`, sends)))
    const request = { kind: 'replan', policy: { kind: 'keep' }, steps: 0 }
    return JSON.stringify({ rig: JSON.parse(writeRig(rig)), request })
  }

  it('two big plans at once, and health answers all the while; a third caller that leaves is not waited for', async () => {
    const body = crowd()
    let isDone = false
    const plans = Promise.all([post('/api/allocate', body), post('/api/allocate', body)]).finally(() => {
      isDone = true
    })
    const leaving = new AbortController()
    const left = fetch(`${ADDRESS}/api/allocate`, {
      method: 'POST',
      body,
      headers: { 'content-type': 'application/json' },
      signal: leaving.signal,
    }).catch((error: Error) => error.name)
    let answers = 0
    while (!isDone) {
      const before = answers
      await Promise.race([get('/api/health').then(() => answers++), plans])
      if (answers === before) break
      if (answers === 3) leaving.abort()
      await new Promise((resolve) => setTimeout(resolve, 20))
    }
    expect(await left).toBe('AbortError')
    const [first, second] = await plans
    expect(first.status).toBe(200)
    expect(second.body).toEqual(first.body)
    expect(first.body.shortages.length).toBeGreaterThan(0)
    expect(answers).toBeGreaterThan(5)
  })

  it('more than it can do is told to come again', async () => {
    const body = crowd()
    const all = await Promise.all(
      Array.from({ length: 12 }, () =>
        fetch(`${ADDRESS}/api/allocate`, {
          method: 'POST',
          body,
          headers: { 'content-type': 'application/json' },
        }),
      ),
    )
    const busy = all.filter(({ status }) => status === 503)
    expect(busy.length).toBeGreaterThan(0)
    for (const each of busy) {
      expect(Number(each.headers.get('retry-after'))).toBeGreaterThan(0)
      expect((await each.json()).error.message).toMatch(/Come again/)
    }
    expect(all.every(({ status }) => status === 200 || status === 503)).toBe(true)
  })
})

describe('refusals', () => {
  it('text that is not JSON: 400, with the line', async () => {
    const { status, body } = await post(
      '/api/check',
      '{\n  "format": "deft-lattice/rig",\n  "version": oops\n}',
    )
    expect(status).toBe(400)
    expect(body.error.path).toContain('line 3')
  })

  it('a rig that is wrong: 422, with the path of each thing', async () => {
    const rig = await demo('as-found')
    rig.controllers[0].homeChannel = 99
    rig.controllers[1].hue = -1
    const { status, body } = await post('/api/check', JSON.stringify(rig))
    expect(status).toBe(422)
    expect(body.error).toMatchObject({
      path: 'controllers[0].homeChannel',
      message: 'is out of range: 16 at most',
    })
    expect(body.error.problems.map(({ path }: { path: string }) => path)).toContain('controllers[1].hue')
  })

  it('a newer version: 422, and says so', async () => {
    const { status, body } = await post(
      '/api/check',
      JSON.stringify({ ...(await demo('as-found')), version: RIG_VERSION + 1 }),
    )
    expect(status).toBe(422)
    expect(body.error.message).toContain('newer Deft Lattice')
  })

  it('another type of body, a body nested to death, a wrong method, no such route', async () => {
    expect((await post('/api/check', 'x', 'text/plain')).status).toBe(415)
    expect((await post('/api/check', '['.repeat(100_000))).status).toBe(400)
    expect((await get('/api/check')).status).toBe(405)
    expect((await get('/api/nothing')).body.error.message).toContain('no route')
    expect((await get('/api/nothing')).status).toBe(404)
  })

  it('a body over the size of the largest rig: 413, whether it is announced or not', async () => {
    const { hostname, port } = new URL(ADDRESS)
    const send = (headers: Record<string, string>, write: (out: ReturnType<typeof request>) => void) =>
      new Promise<number>((resolve, reject) => {
        const out = request(
          { hostname, port, path: '/api/check', method: 'POST', headers, agent: new Agent() },
          (answer) => {
            answer.resume()
            resolve(answer.statusCode ?? 0)
            out.destroy()
          },
        )
        let isAnswered = false
        out.once('response', () => {
          isAnswered = true
        })
        out.on('error', (error) => isAnswered || reject(error))
        write(out)
      })
    const json = { 'content-type': 'application/json' }
    expect(
      await send({ ...json, 'content-length': String(FILE_LIMITS.bytes + 1) }, (out) => out.write('{')),
    ).toBe(413)
    const chunk = ' '.repeat(1024 * 1024)
    const status = await send({ ...json, 'transfer-encoding': 'chunked' }, (out) => {
      for (let count = 0; count <= FILE_LIMITS.bytes / chunk.length + 1; count++) out.write(chunk)
    })
    expect(status).toBe(413)
  })
})
