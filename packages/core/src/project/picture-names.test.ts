import { expect, test } from 'vitest'
import { byStem, keyPictures, pictureRole, pictureStem } from './picture-names.ts'

const self = (name: string) => name

test.each([
  ['pump-off.png', 'off', 'pump'],
  ['Pump_On.PNG', 'on', 'pump'],
  ['main pump pressed 2x.webp', 'pressed', 'main pump x'],
  ['onion.png', null, 'onion'],
  ['42.png', null, ''],
  ['light on off.png', 'off', 'light'],
])('%s is heard', (name, role, stem) => {
  expect([pictureRole(name), pictureStem(name)]).toEqual([role, stem])
})

test.each([
  [['key-on.png', 'key-off.png'], { off: 'key-off.png', on: 'key-on.png', pressed: null, more: [] }],
  [['b.png', 'a.png'], { off: 'b.png', on: 'a.png', pressed: null, more: [] }],
  [['key 10.png', 'key 2.png', 'key 1.png'], { off: 'key 1.png', on: 'key 2.png', pressed: null, more: ['key 10.png'] }],
  [['key.png', 'key-pressed.png'], { off: 'key.png', on: null, pressed: 'key-pressed.png', more: [] }],
  [['off.png', 'off copy.png', 'on.png'], { off: 'off.png', on: 'on.png', pressed: null, more: ['off copy.png'] }],
])('%s have their places', (names, places) => {
  expect(keyPictures(names, self)).toEqual(places)
})

test('pictures of several things are told apart', () => {
  expect(byStem(['pump-off.png', 'fan-on.png', 'pump-on.png'], self)).toEqual([
    ['pump', ['pump-off.png', 'pump-on.png']],
    ['fan', ['fan-on.png']],
  ])
})
