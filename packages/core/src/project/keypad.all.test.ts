import { keypadLaws, moreGlasses } from '../testing/keypads.ts'

keypadLaws(moreGlasses)
