import { recipeSchema, type KeptRecipe } from '@yodel/core'
import { useEffect, useState } from 'react'
import { api, messageOf } from '../../../api/api.js'
import { recipeChosen } from '../../../document/recipeSlice.js'
import { useAppDispatch, useAppSelector } from '../../../document/store.js'
import { useReel } from '../../../session/session.js'
import { Button } from '../../../ui/Button.js'
import { Choice } from '../../../ui/Choice.js'

const sameRecipe = (a: KeptRecipe, b: KeptRecipe): boolean =>
  JSON.stringify(recipeSchema.parse(a)) === JSON.stringify(recipeSchema.parse(b))

/** Which recipe is used; what was changed in it can be kept for the whole show. */
export function RecipeHead() {
  const { id: reelId } = useReel()
  const dispatch = useAppDispatch()
  const recipe = useAppSelector((state) => state.recipe)
  const { data: loaded, error, refetch } = api.useRecipesQuery(reelId)
  const recipes = loaded ?? [recipe]
  const [save, saving] = api.useSaveRecipeMutation()
  const [change, changing] = api.useChangeRecipeMutation()
  const [remove, removing] = api.useDeleteRecipeMutation()
  const [name, setName] = useState<string | null>(null)
  const kept = recipes.find(({ id }) => id === recipe.id)
  // One of another show, or one that somebody has deleted meanwhile, is not to be had here.
  const isLost = loaded !== undefined && kept === undefined
  useEffect(() => {
    if (isLost && loaded[0]) dispatch(recipeChosen(loaded[0]))
  }, [isLost, loaded, dispatch])
  const isChanged = kept !== undefined && !sameRecipe(kept, recipe)
  const problem = error ?? saving.error ?? changing.error ?? removing.error
  const saveAs = async (): Promise<void> => {
    const wanted = (name ?? '').trim()
    if (wanted === '') return
    const made = await save({ reelId, recipe: { ...recipe, name: wanted } }).unwrap()
    // Listed first, or it would count as lost.
    await refetch()
    dispatch(recipeChosen(made))
    setName(null)
  }
  return (
    <div>
      <div className="flex items-center gap-2">
        <Choice
          label="Recipe"
          className="min-w-0 flex-1"
          value={recipe.id}
          options={recipes.map((one) => [one.id, one.name] as const)}
          onChange={(id) => {
            const chosen = recipes.find((one) => one.id === id)
            if (chosen) dispatch(recipeChosen(chosen))
          }}
        />
        {isChanged && !recipe.ships && (
          <Button onClick={() => void change({ id: recipe.id, recipe })}>Save</Button>
        )}
        {isChanged && name === null && (
          <Button look="bare" onClick={() => setName(recipe.ships ? '' : recipe.name)}>
            Save as …
          </Button>
        )}
        {!recipe.ships && !isChanged && (
          <Button
            look="bare"
            onClick={() => {
              const [first] = recipes
              void remove(recipe.id)
              if (first) dispatch(recipeChosen(first))
            }}
          >
            Delete
          </Button>
        )}
      </div>
      {name !== null && (
        <form
          className="mt-1.5 flex gap-2"
          onSubmit={(event) => {
            event.preventDefault()
            void saveAs().catch(() => undefined)
          }}
        >
          <input
            autoFocus
            aria-label="Name of the recipe"
            placeholder="Name of the recipe"
            value={name}
            onChange={(event) => setName(event.target.value)}
            onKeyDown={(event) => event.key === 'Escape' && setName(null)}
            className="min-w-0 flex-1 rounded-[3px] border border-line bg-card px-1.5"
          />
          <Button type="submit" disabled={name.trim() === ''}>
            Keep for the show
          </Button>
        </form>
      )}
      {problem ? <p className="mt-1 text-gate">{messageOf(problem)}</p> : null}
    </div>
  )
}
