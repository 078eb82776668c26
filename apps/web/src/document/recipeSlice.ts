import { SHIPPED_RECIPES, type KeptRecipe, type Recipe } from '@yodel/core'
import { createSlice, type PayloadAction } from '@reduxjs/toolkit'

/** The recipe for turnovers that is chosen, as it stands on the page: what was changed in it is not saved yet. */
const slice = createSlice({
  name: 'recipe',
  initialState: SHIPPED_RECIPES[0] as KeptRecipe,
  reducers: {
    recipeChosen: (_, action: PayloadAction<KeptRecipe>) => action.payload,
    recipeEdited: (state, action: PayloadAction<Partial<Recipe>>) => ({ ...state, ...action.payload }),
  },
})

/** Another recipe is chosen; something in the chosen one is changed. */
export const { recipeChosen, recipeEdited } = slice.actions
/** Keeps the recipe. */
export const recipeReducer = slice.reducer
