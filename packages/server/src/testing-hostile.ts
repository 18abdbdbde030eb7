import { connect } from 'node:net'
import type { Random } from '@moth-lamp/core/base'

/** The bytes that a hostile hand sends to the server on one connection; `about` names it when it matters. */
export interface Attack {
  about: string
  bytes: Buffer
}

const one = <T>(random: Random, from: readonly T[]): T => from[random.below(from.length)]!

const paths = [
  '//',
  '/',
  '',
  '*',
  '//api/live',
  '/api/live',
  '/api/live/',
  '/api//live',
  '/api/live?x=%',
  '/api/live#x',
  '/%',
  '/%00',
  '/..%2f..%2fetc/passwd',
  'http://[',
  'http://127.0.0.1:99999/',
  'http://elsewhere.example/api/live',
  '/\\\\',
  '/api/projects',
  '/api/projects/import',
  '/api/projects/%',
  '/api/projects/project:a',
  '/api/projects/project:a/changes',
  '/api/projects/project:a/changes?since=-1',
  '/api/projects/project:a/changes?since[]=1&since[x]=2',
  '/api/projects/project:a/known',
  '/api/projects/project:a/spend',
  '/api/projects/project:a/file',
  '/api/projects/project:a/picture',
  '/api/projects/project:a/duplicate',
  '/api/projects/project:a/restore',
  '/api/projects/project:a/results',
  '/api/profiles',
  '/api/profiles/%00',
  '/api/profiles/' + 'p'.repeat(5000),
  '/api/assets/' + '0'.repeat(64),
  '/api/assets/..',
  '/api/fonts/unpack',
  '/api/health',
  '/api/nothing',
  '/built/x.js',
  '/built/%2e%2e/%2e%2e/package.json',
  '/' + 'x'.repeat(30_000),
]
const methods = ['GET', 'GET', 'GET', 'POST', 'POST', 'PUT', 'DELETE', 'OPTIONS', 'HEAD', 'PATCH', 'CONNECT', 'TRACE', 'BREW', '']
const types = [
  'application/json',
  'application/json; charset=klingon',
  'text/plain',
  'application/zip',
  'multipart/form-data',
  '',
]
const bodies = [
  '',
  '{',
  'null',
  '[]',
  '"text"',
  '{"__proto__":{"x":1}}',
  '{"name":"\\u0000","width":480,"height":320,"diagonalInches":4}',
  '{"name":"\\ud800","width":480,"height":320,"diagonalInches":4}',
  '{"name":1e999}',
  '{"form":1e99,"base":-1,"changes":[]}',
  '{"form":4,"base":0,"changes":[{"changeId":"change:x","edit":"set project","args":{"values":{"note":"x"}}}]}',
  '{"ids":["change:a",null]}',
  '{"exchange":"exchange:a","revision":0,"passed":true,"failedStep":"\\u0000"}',
  '['.repeat(20_000),
  '{"a":'.repeat(5000),
  'PK\x03\x04' + '\x00'.repeat(60),
  'x'.repeat(40_000),
]
const versions = ['HTTP/1.1', 'HTTP/1.1', 'HTTP/1.1', 'HTTP/1.0', 'HTTP/2.0', 'HTTP/9', 'FTP/1.0', '']

/** The headers of a request: mostly those that a page of our own would send, so that it comes further than the door. */
function headersOf(random: Random, host: string): string[] {
  const hosts = [host, host, host, host, 'elsewhere.example', '127.0.0.1:99999', '', '[::1', host + '\0']
  const origins = [null, null, `http://${host}`, 'http://elsewhere.example', 'null', '', '//']
  const origin = one(random, origins)
  return [
    `host: ${one(random, hosts)}`,
    ...(origin === null ? [] : [`origin: ${origin}`]),
    ...(random.below(6) ? [] : [`sec-fetch-site: ${one(random, ['cross-site', 'same-origin', 'none', ''])}`]),
    ...(random.below(12) ? [] : [`x-long: ${'y'.repeat(20_000)}`]),
  ]
}

const request = (line: string, headers: readonly string[], body = ''): Buffer =>
  Buffer.from([line, ...headers, '', body].join('\r\n'), 'latin1')

function wrongUpgrade(random: Random, host: string): Attack {
  const path = one(random, paths)
  const headers = [
    ...headersOf(random, host),
    `connection: ${one(random, ['Upgrade', 'upgrade, keep-alive', 'close'])}`,
    `upgrade: ${one(random, ['websocket', 'websocket', 'WebSocket', 'h2c', '', 'websocket, x'])}`,
    `sec-websocket-key: ${one(random, ['dGhlIHNhbXBsZSBub25jZQ==', 'short', '', '=='.repeat(2000)])}`,
    `sec-websocket-version: ${one(random, ['13', '13', '8', 'x', ''])}`,
    ...(random.below(4) ? [] : [`sec-websocket-extensions: ${one(random, ['permessage-deflate; x=1; x', ';;;', '"'])}`]),
    ...(random.below(4) ? [] : [`sec-websocket-protocol: ${one(random, [',', 'a,a', ' '])}`]),
  ]
  const line = `${one(random, ['GET', 'GET', 'GET', 'POST', 'CONNECT'])} ${path} ${one(random, versions)}`
  return { about: `upgrade ${line.slice(0, 80)}`, bytes: request(line, headers, random.below(5) ? '' : 'x'.repeat(200)) }
}

function wrongRequest(random: Random, host: string): Attack {
  const body = one(random, bodies)
  const lengths = [`content-length: ${body.length}`, `content-length: ${body.length}`, 'content-length: -1', 'content-length: 5']
  const length = one(random, [...lengths, 'content-length: 99999999999999', 'transfer-encoding: chunked', ''])
  const type = one(random, types)
  const line = `${one(random, methods)} ${one(random, paths)} ${one(random, versions)}`
  const headers = [...headersOf(random, host), type && `content-type: ${type}`, length, 'connection: close'].filter(Boolean)
  return { about: `request ${line.slice(0, 80)} ${type} ${body.slice(0, 30)}`, bytes: request(line, headers, body) }
}

/** A frame of RFC 6455 as a client sends it, or would never: reserved bits, no mask, a length that is a lie. */
function frame(random: Random): Buffer {
  const texts = ['{oops', '{}', 'null', '{"watch":1}', '{"watch":"project:none"}', '{"unwatch":"project:none"}', '\0', '"//"']
  const payload = random.below(8) ? Buffer.from(one(random, texts)) : Buffer.alloc(random.below(6000), random.below(256))
  const first = one(random, [0x81, 0x81, 0x81, 0x82, 0x01, 0x80, 0x88, 0x89, 0x8a, 0x8f, 0xf1])
  const claimed = random.below(10) ? payload.length : 100_000
  const length =
    claimed < 126 ? [claimed] : claimed < 65536 ? [126, claimed >> 8, claimed & 255] : [127, 0, 0, 0, 0, 0, 1, 134, 160]
  if (!random.below(8)) return Buffer.concat([Buffer.from([first, ...length]), payload])
  const mask = [1, 2, 3, 4]
  const masked = payload.map((byte, i) => byte ^ mask[i % 4]!)
  return Buffer.concat([Buffer.from([first, 0x80 | length[0]!, ...length.slice(1), ...mask]), masked])
}

function wrongMessages(random: Random, host: string): Attack {
  const head = request('GET /api/live HTTP/1.1', [
    `host: ${host}`,
    `origin: http://${host}`,
    'connection: Upgrade',
    'upgrade: websocket',
    'sec-websocket-key: dGhlIHNhbXBsZSBub25jZQ==',
    'sec-websocket-version: 13',
  ])
  const frames = Array.from({ length: 1 + random.below(4) }, () => frame(random))
  return { about: `messages ${Buffer.concat(frames).toString('latin1').slice(0, 80)}`, bytes: Buffer.concat([head, ...frames]) }
}

/** An upgrade, a request or messages that are wrong in one of many ways. */
export function attack(random: Random, host: string): Attack {
  return one(random, [wrongUpgrade, wrongRequest, wrongMessages])(random, host)
}

/** Sends the bytes over a connection of their own, and returns the status it answers; 0 where it answers nothing and is closed. */
export function sendBytes(port: number, bytes: Buffer): Promise<number> {
  return new Promise((resolve) => {
    const socket = connect(port, '127.0.0.1')
    let status = -1
    const over = () => (socket.destroy(), resolve(Math.max(0, status)))
    socket.on('error', over)
    socket.on('close', over)
    socket.on('data', (data) => {
      if (status < 0) status = Number(/^HTTP\/1\.1 (\d+)/.exec(data.toString('latin1'))?.[1] ?? 0)
      // After the handshake the line stays open: what was sent has been heard when it is closed from here.
      if (status === 101) setTimeout(over, 3)
      else if (status > 0) over()
    })
    socket.write(bytes)
    // A half-sent request would be waited for: it ends here.
    setTimeout(() => socket.end(), 20)
  })
}
