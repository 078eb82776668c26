/** What is used of WebAssembly, which is there in browsers, in their workers and audio threads, and in Node. */
declare namespace WebAssembly {
  class Module {
    constructor(bytes: Uint8Array)
  }
  class Instance {
    constructor(module: Module, imports: object)
    readonly exports: unknown
  }
}
