import { BookOpen, Moon, Sun } from 'lucide-react'
import { useState, type ReactNode } from 'react'
import { Link, NavLink } from 'react-router'
import { setTheme } from './theme.js'
import { Button } from './Button.js'

/** The bar on top of every page: where one is, where one can go. */
export function TopBar({
  where,
  reelId,
  children,
}: {
  where?: ReactNode
  reelId?: string
  children?: ReactNode
}) {
  const [night, setNight] = useState(document.documentElement.dataset['theme'] === 'night')
  const turn = (): void => {
    setTheme(night ? 'day' : 'night')
    setNight(!night)
  }
  const places: [string, string][] = [
    ...(reelId
      ? ([
          [`/reels/${reelId}`, 'Sheet'],
          [`/reels/${reelId}/list`, 'List'],
          [`/reels/${reelId}/compare`, 'Compare'],
          [`/reels/${reelId}/facts`, 'Reel'],
          [`/reels/${reelId}/turnover`, 'Turnover'],
        ] as [string, string][])
      : [['/', 'Shows'] as [string, string]]),
    ['/sounds', 'Sounds'],
  ]
  return (
    <header className="flex h-10 shrink-0 items-center gap-3.5 border-b border-line bg-paper-2 px-3.5">
      <Link
        to="/"
        className="flex items-center gap-1.5 text-[17px] font-extrabold tracking-tight"
        aria-label="Yodel, all shows"
      >
        <svg width="22" height="18" viewBox="0 0 22 18" aria-hidden>
          <path
            d="M1 16 L7 5 L11 11 L15 2 L21 16"
            fill="none"
            stroke="currentColor"
            strokeWidth="2.4"
            strokeLinejoin="round"
            strokeLinecap="round"
          />
        </svg>
        Yodel
      </Link>
      <div className="flex min-w-0 items-center gap-1.5 truncate text-ink-2">{where}</div>
      <nav className="ml-2 flex gap-0.5" aria-label="Places">
        {places.map(([to, name]) => (
          <NavLink
            key={to}
            to={to}
            end
            className={({ isActive }) =>
              `rounded px-2.5 py-1 ${isActive ? 'bg-ink font-semibold text-paper' : 'text-ink-2 hover:text-ink'}`
            }
          >
            {name}
          </NavLink>
        ))}
      </nav>
      <div className="ml-auto flex items-center gap-2 text-ink-2">
        {children}
        <Link
          to="/guide"
          className="rounded-[5px] border border-transparent p-1.5 hover:border-line hover:text-ink"
          aria-label="Guide"
          title="Guide"
        >
          <BookOpen size={15} />
        </Link>
        <Button
          look="bare"
          className="px-1.5"
          onClick={turn}
          aria-label={night ? 'Day theme' : 'Night theme'}
          title={night ? 'Day theme' : 'Night theme'}
        >
          {night ? <Sun size={15} /> : <Moon size={15} />}
        </Button>
      </div>
    </header>
  )
}
