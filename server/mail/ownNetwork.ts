import { lookup as lookUp, type LookupAddress, type LookupOptions } from 'node:dns'
import { BlockList, isIP } from 'node:net'

/*
 * Addresses that are not of the public internet (IANA special-purpose address registries, RFC 6890): a call that anybody may
 * have written into a sequence must not reach what lies behind the door.
 */

const own = new BlockList()
for (const [net, prefix] of [
  ['0.0.0.0', 8],
  ['10.0.0.0', 8],
  ['100.64.0.0', 10],
  ['127.0.0.0', 8],
  ['169.254.0.0', 16],
  ['172.16.0.0', 12],
  ['192.0.0.0', 24],
  ['192.168.0.0', 16],
  ['198.18.0.0', 15],
  ['224.0.0.0', 4],
  ['240.0.0.0', 4],
] as const) {
  own.addSubnet(net, prefix, 'ipv4')
}
for (const [net, prefix] of [
  ['::', 127],
  ['64:ff9b::', 96],
  ['fc00::', 7],
  ['fe80::', 10],
  ['ff00::', 8],
] as const) {
  own.addSubnet(net, prefix, 'ipv6')
}

/** An address leads into the network this machine is in. */
export class InOwnNetwork extends Error {
  constructor(host: string) {
    super(`${host} lies in the network of this computer, where nothing is called.`)
  }
}

/** Whether an IP address is not one of the public internet. An IPv4 address written as IPv6 is the one it stands for. */
export function isOwnNetwork(address: string): boolean {
  const mapped = /^::ffff:(?:0:)?(\d+\.\d+\.\d+\.\d+)$/i.exec(address)?.[1]
  const plain = mapped ?? address
  if (isIP(plain) === 0) return true
  return own.check(plain, isIP(plain) === 4 ? 'ipv4' : 'ipv6')
}

type Looked = (fault: Error | null, address: string | LookupAddress[], family?: number) => void

/**
 * A name's addresses, refused where one lies in the own network: looked at as the connection is made, so that a name
 * cannot lead elsewhere in between.
 */
export function lookUpOutside(host: string, options: LookupOptions, looked: Looked) {
  lookUp(host, { ...options, all: true }, (fault, addresses) => {
    if (fault) {
      looked(fault, '')
      return
    }
    if (addresses.length === 0 || addresses.some(({ address }) => isOwnNetwork(address))) {
      looked(new InOwnNetwork(host), '')
      return
    }
    const [first] = addresses
    if (options.all) looked(null, addresses)
    else looked(null, first?.address ?? '', first?.family)
  })
}
