import { expect, test } from 'vitest'
import { finds } from './words.ts'

test.each([
  ['dome_azimuth = 231.0°', 'azimuth', true],
  ['dome_azimuth = 231.0°', 'dome 231', true],
  ['dome_azimuth = 231.0°', 'not azimuth', false],
  ['wind_speed = 6.1 m/s', 'not azimuth', true],
  ['wind_speed = 6.1 m/s', '-wind', false],
  ['outside_temp = -4.2 °C', '-4.2', true],
  ['wind_speed = 6.1 m/s', 'wind not azimuth', true],
  ['wind_speed = 6.1 m/s', 'not', true],
  ['anything', '', true],
])('“%s” found by “%s”: %s', (text, typed, found) => expect(finds(text, typed)).toBe(found))
