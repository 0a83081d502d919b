// npm run sbom: writes which packages the app ships with, their versions, licences and checksums (CycloneDX 1.6, JSON).
import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { root, say } from './set-up.mjs'

const FILE = 'sbom.cdx.json'
const { name, version, packages } = JSON.parse(readFileSync(join(root, 'package-lock.json'), 'utf8'))

/** A package of the lock file as a component (CycloneDX 1.6, section "component"; package URL specification). */
function componentOf([path, { version, license, integrity, optional }]) {
  const [, name] = /(?:^|node_modules\/)((?:@[^/]+\/)?[^/]+)$/.exec(path)
  const purl = `pkg:npm/${name.replace('@', '%40')}@${version}`
  const [algorithm, digest] = integrity?.split('-') ?? []
  return {
    type: 'library',
    'bom-ref': `${path}@${version}`,
    name,
    version,
    purl,
    scope: optional ? 'optional' : 'required',
    ...(license && { licenses: [{ expression: license }] }),
    ...(algorithm === 'sha512' && {
      hashes: [{ alg: 'SHA-512', content: Buffer.from(digest, 'base64').toString('hex') }],
    }),
  }
}

const components = Object.entries(packages)
  .filter(([path, { dev, link }]) => path !== '' && !dev && !link)
  .map(componentOf)
const bill = {
  bomFormat: 'CycloneDX',
  specVersion: '1.6',
  version: 1,
  metadata: { component: { type: 'application', 'bom-ref': name, name, version } },
  components,
}
writeFileSync(join(root, FILE), `${JSON.stringify(bill, null, 2)}\n`)
say(
  `${FILE}: ${components.length} packages; without a known licence: ${components.filter(({ licenses }) => !licenses).length}`,
)
