import { createPrivateKey, KeyObject, webcrypto, X509Certificate } from 'node:crypto'
import { isIP } from 'node:net'

const DAY_MS = 86_400_000
const AUTHORITY_DAYS = 3650
/**
 * The longest that a public authority's certificate may be valid (CA/Browser Forum baseline requirements): browsers
 * refuse more.
 */
const SERVER_DAYS = 397
/** A device whose clock is a little slow must not find a certificate that is not valid yet. */
const BEFORE_MS = DAY_MS
const CURVE = { name: 'ECDSA', namedCurve: 'P-256', hash: 'SHA-256' }
const NAME_CONSTRAINTS = '2.5.29.30'
const SERVER_AUTH = '1.3.6.1.5.5.7.3.1'

/** Private and link-local networks (RFC 1918, RFC 3927, RFC 4193, RFC 4291) and this machine itself. */
const PRIVATE = [
  '10.0.0.0/8',
  '172.16.0.0/12',
  '192.168.0.0/16',
  '169.254.0.0/16',
  '127.0.0.0/8',
  '::1/128',
  'fc00::/7',
  'fe80::/10',
]

/** The packages that write certificates, loaded when one is made; the first is a prerequisite of the others. */
async function writers() {
  await import('reflect-metadata')
  const [x509, asn1, { AsnConvert }] = await Promise.all([
    import('@peculiar/x509'),
    import('@peculiar/asn1-x509'),
    import('@peculiar/asn1-schema'),
  ])
  x509.cryptoProvider.set(webcrypto as unknown as Crypto)
  return { x509, asn1, AsnConvert }
}
type Writers = Awaited<ReturnType<typeof writers>>

/** A certificate and its private key, both as PEM (RFC 7468). */
export interface KeyPair {
  readonly certificate: string
  readonly key: string
}

/**
 * An authority for one shop, valid for ten years. It can vouch only for these names and for private addresses (RFC
 * 5280, section 4.2.1.10), so that a tablet that trusts it does not trust it with the rest of the world.
 */
export async function makeAuthority(names: readonly string[], now: number): Promise<KeyPair> {
  const tools = await writers()
  const { x509, AsnConvert } = tools
  const keys = await newKeys()
  const subject = `CN=Russet Lantern of this shop ${serial().slice(0, 6)}`
  const certificate = await x509.X509CertificateGenerator.createSelfSigned({
    serialNumber: serial(),
    name: subject,
    ...validity(now, AUTHORITY_DAYS),
    keys,
    signingAlgorithm: CURVE,
    extensions: [
      new x509.BasicConstraintsExtension(true, 0, true),
      new x509.KeyUsagesExtension(x509.KeyUsageFlags.keyCertSign, true),
      await x509.SubjectKeyIdentifierExtension.create(keys.publicKey),
      new x509.Extension(NAME_CONSTRAINTS, true, AsnConvert.serialize(constraints(names, tools))),
    ],
  })
  return { certificate: certificate.toString('pem'), key: pemOf(keys) }
}

/** A certificate of a shop's server for these names and addresses, signed by the shop's authority. */
export async function makeServerCertificate(
  authority: KeyPair,
  names: readonly string[],
  now: number,
): Promise<KeyPair> {
  const { x509 } = await writers()
  const keys = await newKeys()
  const issuer = new x509.X509Certificate(authority.certificate)
  const pkcs8 = createPrivateKey(authority.key).export({ type: 'pkcs8', format: 'der' })
  const signingKey = await webcrypto.subtle.importKey('pkcs8', pkcs8, CURVE, false, ['sign'])
  const certificate = await x509.X509CertificateGenerator.create({
    serialNumber: serial(),
    subject: 'CN=Russet Lantern',
    issuer: issuer.subject,
    ...validity(now, SERVER_DAYS),
    publicKey: keys.publicKey,
    signingKey: signingKey as CryptoKey,
    signingAlgorithm: CURVE,
    extensions: [
      new x509.BasicConstraintsExtension(false, undefined, true),
      new x509.KeyUsagesExtension(x509.KeyUsageFlags.digitalSignature, true),
      new x509.ExtendedKeyUsageExtension([SERVER_AUTH]),
      new x509.SubjectAlternativeNameExtension(
        names.map((value) => ({ type: isIP(value) ? 'ip' : 'dns', value }) as const),
      ),
      await x509.AuthorityKeyIdentifierExtension.create(issuer.publicKey),
      await x509.SubjectKeyIdentifierExtension.create(keys.publicKey),
    ],
  })
  return { certificate: certificate.toString('pem'), key: pemOf(keys) }
}

/** Whether a certificate is valid for this many more days, and for all of these names. */
export function serves(certificate: string, names: readonly string[], now: number, daysLeft: number): boolean {
  const read = new X509Certificate(certificate)
  if (now < Date.parse(read.validFrom) || Date.parse(read.validTo) - now < daysLeft * DAY_MS) return false
  return names.every((name) => (isIP(name) ? read.checkIP(name) : read.checkHost(name)) !== undefined)
}

/** Whether an authority may vouch for all of these names; one that may not is replaced. */
export async function permits(authority: string, names: readonly string[]): Promise<boolean> {
  const { x509, asn1, AsnConvert } = await writers()
  const extension = new x509.X509Certificate(authority).getExtension(NAME_CONSTRAINTS)
  if (!extension) return false
  const { permittedSubtrees } = AsnConvert.parse(extension.value, asn1.NameConstraints)
  const bases = [...(permittedSubtrees ?? [])].map(({ base }) => base)
  const said = new Set(bases.map(({ dNSName, iPAddress }) => dNSName ?? iPAddress?.split('/')[0]))
  return names.every((name) => (isIP(name) && isPrivate(name)) || said.has(name))
}

/** Whether an authority signed a certificate. */
export const isSignedBy = (certificate: string, authority: string) =>
  new X509Certificate(certificate).verify(new X509Certificate(authority).publicKey)

/** SHA-256 over a certificate, as browsers show it. */
export const fingerprintOf = (certificate: string) => new X509Certificate(certificate).fingerprint256

function constraints(names: readonly string[], { asn1 }: Writers) {
  const { GeneralName, GeneralSubtree, GeneralSubtrees, NameConstraints } = asn1
  const addresses = names.filter((name) => isIP(name) && !isPrivate(name))
  const own = addresses.map((address) => `${address}/${isIP(address) === 4 ? 32 : 128}`)
  const bases = [
    ...names.filter((name) => !isIP(name)).map((dNSName) => new GeneralName({ dNSName })),
    ...[...PRIVATE, ...own].map((iPAddress) => new GeneralName({ iPAddress })),
  ]
  return new NameConstraints({
    permittedSubtrees: new GeneralSubtrees(bases.map((base) => new GeneralSubtree({ base }))),
  })
}

/** Whether an address is in a private network, so that no name outside the shop can lead to it. */
export const isPrivate = (address: string) =>
  isIP(address) === 4
    ? /^(10|127|192\.168|169\.254|172\.(1[6-9]|2\d|3[01]))\./.test(address)
    : /^(::1$|f[cd]|fe[89ab])/i.test(address)

const newKeys = () => webcrypto.subtle.generateKey(CURVE, true, ['sign', 'verify']) as Promise<CryptoKeyPair>
const pemOf = ({ privateKey }: CryptoKeyPair) =>
  KeyObject.from(privateKey as webcrypto.CryptoKey).export({ type: 'pkcs8', format: 'pem' }) as string
const validity = (now: number, days: number) => ({
  notBefore: new Date(now - BEFORE_MS),
  notAfter: new Date(now - BEFORE_MS + days * DAY_MS),
})
/** A random positive number of 127 bits (RFC 5280, section 4.1.2.2). */
function serial(): string {
  const bytes = webcrypto.getRandomValues(new Uint8Array(16))
  bytes[0] = (bytes[0]! & 0x7f) | 1
  return Buffer.from(bytes).toString('hex')
}
