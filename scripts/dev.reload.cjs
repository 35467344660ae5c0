// The page that is open is loaded again once the new program answers; the policy that forbids foreign scripts is left
// out on the way, for the one that does so.
const port = Number(process.env.PORT)

module.exports = {
  proxy: {
    target: `127.0.0.1:${port}`,
    proxyRes: [(answer) => delete answer.headers['content-security-policy']],
  },
  listen: '127.0.0.1',
  port: port + 1,
  files: ['.run/answers'],
  open: false,
  notify: false,
  ui: false,
  ghostMode: false,
}
