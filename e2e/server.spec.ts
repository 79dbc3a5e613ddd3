import { connect, type Socket } from 'node:net'
import sharp from 'sharp'
import { expect, test } from './app'

const PAGES = ['/', '/file', '/loop/none/compose', '/loop/none/export', '/nowhere']
const ANSWERS = ['/api/demo', '/api/demo/capstan.glb', '/api/job-files', '/sw.js', '/icon.svg', '/manifest.webmanifest']

/** First lines of a request over a bare connection. */
function begun(baseURL: string, head: readonly string[]): Socket {
  const { hostname, port } = new URL(baseURL)
  const socket = connect(Number(port), hostname)
  socket.write([...head, `Host: ${hostname}`, '', ''].join('\r\n'))
  return socket
}
/** The status that comes over a connection, however late; 0 where it is closed without one. */
const statusOf = (socket: Socket): Promise<number> =>
  new Promise((resolve) => {
    socket.once('data', (data) => resolve(Number(/^HTTP\/1\.1 (\d{3})/.exec(data.toString('latin1'))?.[1] ?? 0)))
    socket.once('close', () => resolve(0))
    socket.once('error', () => resolve(0))
  })

const WRITING = '/api/webp?lossless=true&exact=false&quality=80'
const PNG = sharp({ create: { width: 40, height: 30, channels: 4, background: '#0b2230' } })
  .png()
  .toBuffer()

test('every answer says what may be loaded, is taken for what it says it is, and is framed by nobody', async ({
  request,
}) => {
  for (const path of [...PAGES, ...ANSWERS, '/_next/static/none.js']) {
    const headers = (await request.get(path)).headers()
    expect(headers, path).toMatchObject({
      'x-content-type-options': 'nosniff',
      'cross-origin-opener-policy': 'same-origin',
      'cross-origin-embedder-policy': 'require-corp',
    })
    const policy = headers['content-security-policy'] ?? ''
    for (const part of ["default-src 'self'", "frame-ancestors 'none'", "object-src 'none'", "base-uri 'none'"])
      expect(policy, path).toContain(part)
    expect(policy, path).not.toContain('unsafe-eval')
    expect(/script-src[^;]*/.exec(policy)?.[0], path).not.toContain('unsafe-inline')
  }
})

test('scripts of a page carry the word of its answer, which no other has', async ({ request }) => {
  const words = new Set<string>()
  for (const path of [...PAGES, ...PAGES]) {
    const answer = await request.get(path)
    const word = /'nonce-([^']+)'/.exec(answer.headers()['content-security-policy'] ?? '')?.[1] ?? ''
    const scripts = (await answer.text()).match(/<script\b[^>]*>/g) ?? []
    expect(scripts.length, path).toBeGreaterThan(3)
    for (const script of scripts) expect(script, path).toContain(`nonce="${word}"`)
    words.add(word)
  }
  expect(words.size).toBe(2 * PAGES.length)
})

test('a page runs no script that is put into it, no text, and shows and asks for nothing from elsewhere', async ({
  context,
}) => {
  const page = await context.newPage()
  await page.goto('/')
  await page.evaluate(() => {
    const broken: string[] = []
    Object.assign(window, { broken })
    document.addEventListener('securitypolicyviolation', (event) => broken.push(event.effectiveDirective))
    const script = document.createElement('script')
    script.textContent = 'document.title = "taken over"'
    const picture = new Image()
    picture.src = 'http://elsewhere.invalid/lamp.png'
    const frame = document.createElement('iframe')
    frame.src = '/file'
    document.body.append(script, picture, frame)
    const button = document.createElement('button')
    button.setAttribute('onclick', 'document.title = "taken over"')
    button.click()
    void fetch('http://elsewhere.invalid/').catch(() => {})
    setTimeout('document.title = "taken over"')
  })
  const broken = () => page.evaluate(() => (window as unknown as { broken: string[] }).broken)
  for (const directive of ['connect-src', 'frame-src', 'img-src', 'script-src', 'script-src-attr', 'script-src-elem'])
    await expect.poll(broken).toContain(directive)
  expect(await page.title()).toBe('Cyclon')
})

test('what is asked for in the wrong way, or is not there, is refused', async ({ request, baseURL }) => {
  for (const method of ['POST', 'PUT', 'PATCH', 'DELETE'])
    for (const path of [...PAGES, '/api/demo', '/api/job-files', '/sw.js'])
      expect((await request.fetch(path, { method, data: '{}' })).status(), `${method} ${path}`).toBe(405)
  for (const path of [
    '/api/demo/none.glb',
    '/api/demo/..%2f..%2fpackage.json',
    '/api/none',
    '/_next/image?url=/icon.svg&w=64&q=75',
  ])
    expect((await request.get(path)).status(), path).toBe(404)
  expect((await request.get(WRITING)).status()).toBe(405)
  // An address of 40 kB.
  expect(await statusOf(begun(baseURL ?? '', [`GET /${'a'.repeat(40_000)} HTTP/1.1`]))).toBe(431)
})

test('a picture to be written is refused in words where it is none, is too large, or does not say how', async ({
  request,
  baseURL,
}) => {
  const png = await PNG
  expect((await request.post(WRITING, { data: png })).headers()['content-type']).toBe('image/webp')
  for (const [path, data, status] of [
    ['/api/webp', png, 400],
    [WRITING.replace('80', '900'), png, 400],
    [WRITING, Buffer.alloc(0), 400],
    [WRITING, Buffer.from('no picture'), 400],
    [WRITING, png.subarray(0, 60), 422],
  ] as const) {
    const answer = await request.post(path, { data })
    expect(answer.status(), `${path}, ${data.length} bytes`).toBe(status)
    expect((await answer.json()).message).toMatch(/^[A-Z].{20,}/)
  }
  // It says that it is longer than is taken; nothing of it has to come for that.
  const head = [`POST ${WRITING} HTTP/1.1`, `Content-Length: ${200 * 1024 * 1024}`]
  expect(await statusOf(begun(baseURL ?? '', head))).toBe(413)
})

test('those who send nothing hold up nobody, and are let go', async ({ request, baseURL }) => {
  const silent = Array.from({ length: 40 }, () =>
    begun(baseURL ?? '', [`POST ${WRITING} HTTP/1.1`, 'Content-Length: 5000']),
  )
  const ended = Promise.all(silent.map(statusOf))
  const png = await PNG
  // Two at a time are written and sixteen wait: more are told to come again, and none is lost.
  const answers = await Promise.all(Array.from({ length: 60 }, () => request.post(WRITING, { data: png })))
  const statuses = answers.map((answer) => answer.status())
  for (const status of statuses) expect([200, 429]).toContain(status)
  expect(statuses.filter((status) => status === 200).length).toBeGreaterThan(17)
  expect(new Set(await ended)).toEqual(new Set([408]))
})
