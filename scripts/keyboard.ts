import { writeFileSync } from 'node:fs'
import { COMMANDS, keysText } from '../src/studio/commands'

/** Writes docs/keyboard.md from the commands themselves: `npm run docs:keyboard`. */
const sections = [...new Set(COMMANDS.map(({ section }) => section))]
const rows = (section: string) =>
  COMMANDS.filter((command) => command.section === section)
    .map(
      ({ label, keys }) =>
        `| ${label} | ${
          keys
            ? keys
                .split(',')
                .map((key) => `\`${keysText(key)}\``)
                .join(' or ')
            : 'command list'
        } |`,
    )
    .join('\n')
writeFileSync(
  'docs/keyboard.md',
  `# Keyboard

Every command is in the command list (\`Ctrl K\`), the keys show on \`?\`. On a Mac, Cmd stands for Ctrl. This page is made from the
commands by \`npm run docs:keyboard\`.

${sections.map((section) => `## ${section}\n\n| command | keys |\n|---|---|\n${rows(section)}\n`).join('\n')}
## Elsewhere

| where | keys |
|---|---|
| number fields | \`↑\` \`↓\` step, with Shift ten times; sums and units such as \`360/48\`, \`1.5s\`, \`12f\`, \`1/4 turn\`; Esc takes the typing back |
| within a panel | \`↑\` \`↓\` from button to button, in the tools \`←\` \`→\` too; Page Up and Page Down by ten, also from fields |
| beads of the dial and the curve | \`←\` \`→\` one frame; on the curve \`↑\` \`↓\` one step of the value |
| tools | Enter puts a layer in the middle of the frame |
| the seam of a file | \`←\` \`→\` the frame before and after, Space plays, \`Ctrl Z\` \`Ctrl Shift Z\` undo and redo a mend |
| compared frames | \`+\` \`−\` zoom, \`0\` all of it, \`Z\` a pixel for a pixel, \`D\` the loupe, \`G\` the grid; arrows move a guide, Delete takes it away |
| the range on the strip | \`←\` \`→\` one frame, Page Up and Page Down ten |
| names of layers | F2 renames; on the grip, Space then arrows reorders |
| drags on the frame | Shift even, straight or in steps of 15°; Alt without snapping; Esc takes it back |
`,
)
