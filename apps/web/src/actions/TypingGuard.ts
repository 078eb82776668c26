/**
 * Keeps letters out of the page's keys when the field that they were typed into has gone away by itself: because its
 * cue was taken out by somebody else, or could not be saved. From then on nothing runs by key until the person does
 * something that shows that they have seen it: Esc, Enter, a press of the pointer, or going into another field.
 */
export class TypingGuard {
  private field: Element | null = null
  private closing = false
  private lost = false

  /** A field got the keyboard. */
  entered(field: Element): void {
    this.field = field
    this.closing = false
    this.lost = false
  }

  /** A key was pressed in the field: Enter, Esc and Tab end typing, so that a field which goes away after them was left. */
  typed(key: string): void {
    this.closing = key === 'Enter' || key === 'Escape' || key === 'Tab'
  }

  /** The pointer was pressed somewhere, or the field was left by hand. */
  left(): void {
    this.field = null
    this.lost = false
  }

  /** Whether a key that is pressed on the page was meant for a field that is gone. */
  swallows(key: string): boolean {
    if (this.field && !this.field.isConnected) {
      this.lost = !this.closing
      this.field = null
    }
    if (!this.lost) return false
    if (key === 'Enter' || key === 'Escape') this.lost = false
    return true
  }
}
