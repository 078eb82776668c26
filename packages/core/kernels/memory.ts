/** Memory of a kernel that JavaScript fills and reads. @returns Where it begins, a multiple of 16; all of it is 0 */
export function take(bytes: usize): usize {
  const at = heap.alloc(bytes)
  memory.fill(at, 0, bytes)
  return at
}

/** Gives memory of {@link take} back. */
export function give(at: usize): void {
  heap.free(at)
}

/** Forgets what a stretch of memory holds. */
export function clear(at: usize, bytes: usize): void {
  memory.fill(at, 0, bytes)
}

/** Moves a stretch of memory; the two may overlap. */
export function move(to: usize, from: usize, bytes: usize): void {
  memory.copy(to, from, bytes)
}
