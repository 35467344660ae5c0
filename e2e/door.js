// A door before a program, as a network and a new version are one: through it the program's scripts have other names with each version, and those of the
// version before are gone.
import { createServer, request } from 'node:http'

export class Door {
  version = 0
  lost = false // no script comes through
  constructor(program) {
    this.program = program
  }

  async open() {
    this.server = createServer((asked, answer) => this.pass(asked, answer))
    await new Promise((done) => this.server.listen(0, '127.0.0.1', done))
    this.url = 'http://127.0.0.1:' + this.server.address().port
    return this
  }
  close() {
    this.server.close()
    this.server.closeAllConnections()
  }

  pass(asked, answer) {
    const script = asked.url.match(/^\/assets\/client\/.*-[A-Z0-9]{8}(?:\.v(\d+))?\.js/)
    if (script && this.lost) return answer.destroy()
    if (script && Number(script[1] || 0) !== this.version) return answer.writeHead(404).end()
    const { 'accept-encoding': _, ...headers } = asked.headers
    const path = asked.url.replace(/\.v\d+\.js$/, '.js')
    const on = request({ host: '127.0.0.1', port: this.program.port, path, method: asked.method, headers }, (from) => {
      const { 'content-length': _, ...headers } = from.headers
      const named = /html|javascript/.test(headers['content-type'])
      if (!named) return from.pipe(answer.writeHead(from.statusCode, from.headers))
      let text = ''
      from.setEncoding('utf8')
      from.on('data', (part) => (text += part))
      from.on('end', () => answer.writeHead(from.statusCode, headers).end(this.named(text)))
    })
    on.on('error', () => answer.destroy())
    answer.on('close', () => on.destroy())
    asked.pipe(on)
  }
  named(text) {
    return this.version ? text.replace(/(-[A-Z0-9]{8})\.js/g, `$1.v${this.version}.js`) : text
  }
}
