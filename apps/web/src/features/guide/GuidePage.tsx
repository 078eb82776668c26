import { useEffect, useMemo, useRef, useState, type MouseEvent } from 'react'
import { NavLink, useLocation, useNavigate, useParams } from 'react-router'
import { calledKey } from '../../actions/keyboard/calledKey.js'
import { useKeyboard } from '../../actions/useKeys.js'
import { useAppSelector } from '../../document/store.js'
import { LastReelBar } from '../../panes/shell/LastReelBar.js'
import { CHAPTERS, nameOf, pictureAt } from './chapters.js'
import { renderChapter } from './renderChapter.js'
import { searchGuide } from './searchGuide.js'
import './guide.css'

/** The guide: chapters at the left, searched by words; keys are called as on the person's keyboard. */
export function GuidePage() {
  const { chapter: name = CHAPTERS[0]?.name } = useParams()
  const [query, setQuery] = useState('')
  const chapter = CHAPTERS.find((one) => one.name === name)
  const found = useMemo(() => searchGuide(CHAPTERS, query), [query])
  return (
    <div className="flex h-screen flex-col">
      <LastReelBar where="Guide" />
      <div className="flex min-h-0 flex-1">
        <nav
          className="w-[270px] shrink-0 overflow-y-auto border-r border-line bg-paper-2 p-3"
          aria-label="Chapters"
        >
          <input
            type="search"
            aria-label="Search the guide"
            placeholder="Search the guide"
            value={query}
            onChange={(event) => setQuery(event.target.value)}
            className="mb-2 w-full rounded-[5px] border border-line bg-card px-2 py-1.5"
          />
          {query.trim() === '' ? (
            CHAPTERS.map(({ name: to, title }) => (
              <NavLink
                key={to}
                to={`/guide/${to}`}
                className={`block rounded px-2 py-1.5 ${to === name ? 'bg-ink font-semibold text-paper' : 'hover:bg-paper-3'}`}
              >
                {title}
              </NavLink>
            ))
          ) : (
            <div role="status">
              {found.length === 0 && <p className="px-2 text-ink-2">Nothing is said about that.</p>}
              {found.map((place, index) => (
                <NavLink
                  key={index}
                  to={`/guide/${place.chapter}#${place.anchor}`}
                  className="mb-1 block rounded px-2 py-1 hover:bg-paper-3"
                >
                  <span className="block font-semibold">{place.heading}</span>
                  <span className="block text-[12px] text-ink-2">{place.around}</span>
                </NavLink>
              ))}
            </div>
          )}
        </nav>
        <main tabIndex={0} className="min-w-0 flex-1 overflow-y-auto">
          {chapter ? (
            <Text key={chapter.name} text={chapter.text} />
          ) : (
            <p className="p-8">There is no such chapter. Choose one at the left.</p>
          )}
        </main>
      </div>
    </div>
  )
}

function Text({ text }: { text: string }) {
  const keyboard = useKeyboard()
  const own = useAppSelector((state) => state.keys.own)
  const navigate = useNavigate()
  const { hash } = useLocation()
  const article = useRef<HTMLElement>(null)
  const html = useMemo(
    () =>
      renderChapter(text, {
        key: (written) => calledKey(written, keyboard, own),
        picture: pictureAt,
        link: (path) => (path.startsWith('http') ? path : `/guide/${nameOf(path)}`),
      }),
    [text, keyboard, own],
  )
  useEffect(() => {
    if (hash) article.current?.querySelector(`[id="${CSS.escape(hash.slice(1))}"]`)?.scrollIntoView()
  }, [hash, html])
  const onClick = (event: MouseEvent): void => {
    const link = event.target instanceof Element ? event.target.closest('a') : null
    if (!link || link.origin !== location.origin || event.ctrlKey || event.metaKey) return
    event.preventDefault()
    void navigate(link.pathname + link.hash)
  }
  return (
    <article ref={article} className="guide" onClick={onClick} dangerouslySetInnerHTML={{ __html: html }} />
  )
}
