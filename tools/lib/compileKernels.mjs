// @ts-check
import asc from 'assemblyscript/asc'

/**
 * Compiles the kernels.
 * @param {string} folder - Of packages/core/kernels
 * @returns {Promise<Uint8Array>} the WebAssembly module, the same for the same sources
 */
export async function compileKernels(folder) {
  const options = ['-O3', '--enable', 'simd', '--runtime', 'minimal', '--noAssert']
  /** @type {Uint8Array | null} */
  let bytes = null
  const { error, stderr } = await asc.main(
    ['index.ts', '--baseDir', folder, '--outFile', 'out.wasm', ...options],
    {
      writeFile: (_name, contents) => {
        if (contents instanceof Uint8Array) bytes = contents
      },
    },
  )
  if (error || !bytes) throw new Error(`The kernels do not compile:\n${stderr.toString()}`)
  return bytes
}

/** The module as a file of source. @param {Uint8Array} bytes */
export function textOf(bytes) {
  const lines = Buffer.from(bytes).toString('hex').match(/.{1,104}/g) ?? []
  return [
    '/** packages/core/kernels, compiled by `npm run kernels`: the bytes of a WebAssembly module, two digits each. */',
    'export const KERNEL_BYTES =',
    ...lines.map((line, at) => `  '${line}'${at < lines.length - 1 ? ' +' : ''}`),
    '',
  ].join('\n')
}
