import { hostname, networkInterfaces } from 'node:os'
import type { FastifyInstance } from 'fastify'
import { AppError } from '../errors.js'
import { isLoopback, type Settings } from '../settings.js'

/**
 * Answers only who means this Yodel: requests under its own names and addresses, and writes from its own pages.
 * A foreign name that somebody had resolve to this machine is refused, so that no foreign page can read or write here.
 */
export function refuseForeigners(app: FastifyInstance, settings: Pick<Settings, 'host' | 'publicUrl'>): void {
  const own = ownNames(settings)
  app.addHook('onRequest', async (request) => {
    const { host = '', origin } = request.headers
    if (!own.has(nameIn(`http://${host}`)))
      throw new AppError(
        'WRONG_HOST',
        `This Yodel does not answer under the name ${host || '(none)'}. Open it by the address that it printed at its start, ` +
          'or say at its start by which it may be opened: YODEL_PUBLIC_URL=https://that.name',
      )
    if (request.method === 'GET' || request.method === 'HEAD' || origin === undefined) return
    if ((URL.canParse(origin) ? new URL(origin).host : '') !== host)
      throw new AppError('WRONG_ORIGIN', `A page at ${origin} may not change anything here.`)
  })
}

/** Names and addresses under which a server that listens at `host` may be asked. */
function ownNames({ host, publicUrl }: Pick<Settings, 'host' | 'publicUrl'>): Set<string> {
  const names = [
    'localhost',
    '127.0.0.1',
    '[::1]',
    nameIn(`http://${host.includes(':') ? `[${host}]` : host}`),
  ]
  if (!isLoopback(host)) {
    const addresses = Object.values(networkInterfaces()).flatMap((list) => list ?? [])
    names.push(hostname().toLowerCase(), `${hostname().toLowerCase()}.local`)
    names.push(...addresses.map(({ address, family }) => (family === 'IPv6' ? `[${address}]` : address)))
  }
  if (publicUrl) names.push(new URL(publicUrl).hostname)
  return new Set(names.filter((name) => name !== '' && name !== '0.0.0.0' && name !== '[::]'))
}

/** The name in an address, as browsers write it; empty where there is none. */
const nameIn = (url: string): string => (URL.canParse(url) ? new URL(url).hostname : '')
