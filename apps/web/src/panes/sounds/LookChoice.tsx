import { searchActions } from '../../document/searchSlice.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { Choice } from '../../ui/Choice.js'
import { Menu, Tick } from '../../ui/Menu.js'
import { QualityLegend } from './Qualities.js'
import { RESULT_COLUMNS } from './resultColumns.js'

/** How results are shown, and what the bars of each mean; a table only where there is room for one. */
export function LookChoice({ withTable }: { withTable: boolean }) {
  const dispatch = useAppDispatch()
  const look = useAppSelector((state) => state.search.look)
  const rows = look.rows === 'table' && !withTable ? 'dense' : look.rows
  const toggle = (key: string): void => {
    const hidden = look.hidden.includes(key)
      ? look.hidden.filter((one) => one !== key)
      : [...look.hidden, key]
    dispatch(searchActions.setLook({ hidden }))
  }
  return (
    <span className="flex items-center gap-1.5">
      {rows === 'full' && <QualityLegend />}
      {rows === 'table' && (
        <Menu name="Columns" small right>
          <div className="grid grid-cols-2 gap-x-4">
            {RESULT_COLUMNS.filter(({ key }) => key !== 'name').map(({ key, title }) => (
              <Tick key={key} on={!look.hidden.includes(key)} onChange={() => toggle(key)}>
                {title}
              </Tick>
            ))}
          </div>
        </Menu>
      )}
      <Choice
        label="Rows"
        value={rows}
        options={[
          ['full', 'Outlines'] as const,
          ['dense', 'Lines'] as const,
          ...(withTable ? [['table', 'Table'] as const] : []),
        ]}
        onChange={(next) => dispatch(searchActions.setLook({ rows: next }))}
        className="max-w-[92px]"
      />
    </span>
  )
}
