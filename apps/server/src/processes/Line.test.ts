import { expect, it } from 'vitest'
import { Line } from './Line.js'

/** Work that goes on until it is let go. */
function work(done: string[], name: string) {
  let end = (): void => undefined
  const over = new Promise<void>((resolve) => (end = resolve))
  return {
    end,
    act: async () => {
      done.push(`${name} begins`)
      await over
      done.push(`${name} ends`)
      return name
    },
  }
}
const settled = () => new Promise((resolve) => setTimeout(resolve, 0))

it('does so much at once, the rest in its order', async () => {
  const done: string[] = []
  const line = new Line(2)
  const [a, b, c, d] = ['a', 'b', 'c', 'd'].map((name) => work(done, name)) as ReturnType<typeof work>[]
  const all = [a, b, c, d].map((one) => line.run(null, one!.act))
  await settled()
  expect(done).toEqual(['a begins', 'b begins'])
  b!.end()
  await settled()
  expect(done.slice(2)).toEqual(['b ends', 'c begins'])
  for (const one of [a, c, d]) one!.end()
  expect(await Promise.all(all)).toEqual(['a', 'b', 'c', 'd'])
})

it('drops what nobody waits for, and goes on after what fails', async () => {
  const done: string[] = []
  const line = new Line(1)
  const first = work(done, 'first')
  const left = new AbortController()
  const running = line.run(null, first.act)
  const dropped = line.run(left.signal, work(done, 'dropped').act)
  const failing = line.run(null, () => Promise.reject(new Error('broken')))
  const last = line.run(null, async () => 'last')
  left.abort()
  first.end()
  await expect(dropped).rejects.toMatchObject({ code: 'NOT_WAITED_FOR' })
  await expect(failing).rejects.toThrow('broken')
  expect([await running, await last]).toEqual(['first', 'last'])
  expect(done).not.toContain('dropped begins')
})
