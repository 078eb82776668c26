import { Link, useRouteError } from 'react-router'
import { Button } from './Button.js'

/** A page that says what went wrong and where to go on. */
export function Problem({ text, onRetry }: { text?: string; onRetry?: () => void }) {
  const error = useRouteError()
  const message = text ?? (error instanceof Error ? error.message : 'Something went wrong on this page.')
  return (
    <main className="grid h-full place-items-center p-8">
      <div className="max-w-md">
        <h1 className="text-[16px] font-bold">This can’t be shown</h1>
        <p className="mt-2 text-ink-2">{message}</p>
        <div className="mt-4 flex gap-2">
          <Button look="strong" onClick={onRetry ?? (() => location.reload())}>
            Try again
          </Button>
          <Link to="/" className="rounded-[5px] border border-line bg-card px-2.5 py-1 text-[12.5px]">
            All shows
          </Link>
        </div>
      </div>
    </main>
  )
}
