/** Puts a column before or behind another, on the side from which it comes. */
export function moveColumn(order: readonly string[], key: string, to: string): readonly string[] {
  const [from, goal] = [order.indexOf(key), order.indexOf(to)]
  if (from < 0 || goal < 0) return order
  const rest = order.filter((one) => one !== key)
  return [...rest.slice(0, goal), key, ...rest.slice(goal)]
}
