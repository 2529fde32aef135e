// Run after every `npm install`. A registry may lack optional packages for other platforms; npm then leaves them out of
// the lock file, and `npm ci` refuses the file for lacking them. Each gets a stub that no machine here will install.
import { readFileSync, writeFileSync } from 'node:fs';

const FILE = 'package-lock.json';
const lock = JSON.parse(readFileSync(FILE, 'utf8'));
let added = 0;

for (const [place, entry] of Object.entries({ ...lock.packages })) {
  for (const [name, version] of Object.entries(entry.optionalDependencies ?? {})) {
    if (isLocked(place, name)) continue;
    lock.packages[`node_modules/${name}`] = {
      version: version.replace(/^[\^~]/, ''),
      optional: true,
      ...platformOf(name),
    };
    added += 1;
  }
}
lock.packages = Object.fromEntries(Object.entries(lock.packages).sort(([a], [b]) => (a < b ? -1 : 1)));
writeFileSync(FILE, `${JSON.stringify(lock, null, 2)}\n`);
console.log(`${added} optional packages of other platforms noted in ${FILE}`);

/** Looks where Node would: beside the package that asks, then in every folder above. */
function isLocked(place, name) {
  for (let folder = place; ; folder = folder.replace(/\/?node_modules\/(?:@[^/]+\/)?[^/]+$/, '')) {
    if (lock.packages[`${folder ? `${folder}/` : ''}node_modules/${name}`]) return true;
    if (!folder) return false;
  }
}

/** The platform is in the name, such as @scope/tool-linux-arm64-musl. */
function platformOf(name) {
  const os = /(linux|darwin|win32|freebsd|openbsd|netbsd|android|sunos|aix|openharmony|wasm32)/.exec(name)?.[1];
  const cpu = /(x64|arm64|arm|ia32|ppc64|riscv64|s390x|loong64|mips64el|wasm32)/.exec(name)?.[1];
  const libc = /(musl)/.exec(name)?.[1];
  return {
    ...(os && os !== 'wasm32' ? { os: [os] } : {}),
    ...(cpu ? { cpu: [cpu] } : {}),
    ...(libc ? { libc: [libc] } : {}),
  };
}
