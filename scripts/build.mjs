import { build, installPackages } from './setup.mjs'

installPackages()
build()
