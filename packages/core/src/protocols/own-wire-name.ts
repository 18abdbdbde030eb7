import Joi from 'joi'

/** A name of its own on the wire; '': as the layout makes it. */
export const ownWireName = Joi.string()
  .allow('')
  .max(64)
  .pattern(/^[\x21\x23-\x26\x28-\x5b\x5d-\x7e]+$/, 'characters without blanks, quotes and backslash')
