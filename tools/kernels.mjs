// Compiles packages/core/kernels (AssemblyScript) to WebAssembly and writes it as text, so that it is there in audio threads,
// workers and on the server alike: `npm run kernels` after a change of them. A test says when this was forgotten.
import asc from 'assemblyscript/asc'
import { writeFileSync } from 'node:fs'
import path from 'node:path'
import { ROOT } from './lib/build.mjs'

const OPTIONS = ['-O3', '--enable', 'simd', '--runtime', 'minimal', '--noAssert']

/** @returns {Promise<Uint8Array>} the WebAssembly module, the same for the same sources */
async function compile() {
  let bytes = null
  const { error, stderr } = await asc.main(
    ['index.ts', '--baseDir', path.join(ROOT, 'packages/core/kernels'), '--outFile', 'out.wasm', ...OPTIONS],
    {
      writeFile: (_name, contents) => {
        bytes = contents
      },
    },
  )
  if (error || !bytes) throw new Error(`The kernels do not compile:\n${stderr.toString()}`)
  return bytes
}

const bytes = await compile()
const lines =
  Buffer.from(bytes)
    .toString('hex')
    .match(/.{1,104}/g) ?? []
const text = [
  '/** packages/core/kernels, compiled by `npm run kernels`: the bytes of a WebAssembly module, two digits each. */',
  'export const KERNEL_BYTES =',
  ...lines.map((line, at) => `  '${line}'${at < lines.length - 1 ? ' +' : ''}`),
  '',
].join('\n')
if (process.argv.includes('--show')) process.stdout.write(text)
else {
  writeFileSync(path.join(ROOT, 'packages/core/src/kernels/kernelBytes.ts'), text)
  console.log(`The kernels: ${bytes.length} bytes of WebAssembly.`)
}
