/**
 * Writes a text that changes with every refresh into an element that holds nothing else. The text that is there is changed:
 * one in its place would have the browser sort all that is drawn into layers anew.
 */
export function writeText(element: HTMLElement | null, text: string): void {
  const there = element?.firstChild
  if (!(there instanceof Text)) element?.replaceChildren(text)
  else if (there.data !== text) there.data = text
}
