// Compiles packages/core/kernels (AssemblyScript) to WebAssembly and writes it as text, so that it is there in audio threads,
// workers and on the server alike: `npm run kernels` after a change of them. A test says when this was forgotten.
import { writeFileSync } from 'node:fs'
import path from 'node:path'
import { ROOT } from './lib/build.mjs'
import { compileKernels, textOf } from './lib/compileKernels.mjs'

const file = path.join(ROOT, 'packages/core/src/kernels/kernelBytes.ts')
const bytes = await compileKernels(path.join(ROOT, 'packages/core/kernels'))
writeFileSync(file, textOf(bytes))
console.log(`${path.relative(ROOT, file)}: ${bytes.length} bytes`)
