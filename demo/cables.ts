import type { DemoInput, DemoState } from './kit'

const usb = (owner: string, port: string) => ({
  id: `${owner}-to-laptop`,
  from: { owner, port: 'usb' },
  to: { owner: 'laptop', port },
})

/** The cables, with their rules. */
export function cables(state: DemoState): DemoInput['cables'] {
  return [
    usb('syzra', 'usb-syzra'),
    usb('pelluna', 'usb-pelluna'),
    usb('merrod', 'usb-merrod'),
    { id: 'merrod-din', from: { owner: 'merrod', port: 'din' }, to: { owner: 'junction', port: 'in-a' } },
    { id: 'umbrek-din', from: { owner: 'umbrek', port: 'din' }, to: { owner: 'junction', port: 'in-b' } },
    { id: 'syzra-din', from: { owner: 'syzra', port: 'din' }, to: { owner: 'junction', port: 'in-c' } },
    { id: 'to-ondrel', from: { owner: 'junction', port: 'out-1' }, to: { owner: 'ondrel-vi', port: 'in' } },
    {
      id: 'feet-to-laptop',
      from: { owner: 'junction', port: 'out-2' },
      to: { owner: 'laptop', port: 'din' },
      rules: [{ kind: 'pass', match: { channels: state === 'as-found' ? [9, 10, 15] : [9] } }],
      otherwise: 'stop',
    },
    {
      id: 'to-kettlow',
      from: { owner: 'loomwright', port: 'thru' },
      to: { owner: 'kettlow', port: 'in' },
      rules: [{ kind: 'pass', match: { kinds: ['note'], channels: state === 'as-found' ? [10, 13] : [10] } }],
      otherwise: 'stop',
    },
    ...(state === 'as-found'
      ? [
          {
            id: 'drums-back',
            from: { owner: 'kettlow', port: 'thru' },
            to: { owner: 'junction', port: 'in-d' },
          },
        ]
      : []),
  ]
}
