/** Why something was refused, said at once to a screen reader as well; nothing where nothing was. */
export function Refusal({ text, className = '' }: { text: string | null | undefined; className?: string }) {
  return text ? (
    <p role="alert" className={`text-gate ${className}`}>
      {text}
    </p>
  ) : null
}
