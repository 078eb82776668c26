import { afterEach, beforeEach } from 'vitest'

/** Has a function answer for the server in every test of a file. @param answer - Is given the whole address, and what was asked */
export function serverIs(answer: (url: URL, input: RequestInfo | URL) => Promise<Response> | Response): void {
  const { fetch, Request: PlainRequest } = globalThis
  beforeEach(() => {
    // Outside of a browser a request needs its host said.
    globalThis.Request = class extends PlainRequest {
      constructor(input: RequestInfo | URL, init?: RequestInit) {
        super(typeof input === 'string' ? new URL(input, 'http://yodel') : input, init)
      }
    }
    globalThis.fetch = async (input) => {
      await Promise.resolve()
      return answer(new URL(input instanceof PlainRequest ? input.url : String(input), 'http://yodel'), input)
    }
  })
  afterEach(() => void Object.assign(globalThis, { fetch, Request: PlainRequest }))
}
