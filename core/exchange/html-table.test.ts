import fc from 'fast-check'
import { tablesFromHtml, tablesFromText } from './html-table'

describe('tables in HTML', () => {
  test('cells that span others stand in all of them; nested tables are text', () =>
    expect(
      tablesFromHtml(
        '<p>x</p><table><tr><th rowspan=2>Purpose<th colspan=2>Levels</tr><tr><td>no<td>yes</tr><tr><td>Style</td><td><table><tr><td>a</td></tr></table></td><td>b<br>c</td></tr></table>',
      ),
    ).toEqual([
      [
        ['Purpose', 'Levels', 'Levels'],
        ['Purpose', 'no', 'yes'],
        ['Style', 'a', 'b\nc'],
      ],
    ]))
  test('scripts and styles leave nothing', () => {
    const html =
      '<table><tr><td>A<script>alert(1)</script><style>x{}</style></td><td onclick="x()"><img src=x onerror=alert(1)>B</td></tr></table>'
    expect(tablesFromHtml(html)).toEqual([[['A', 'B']]])
  })
  test('a table that spans without end, 5,000 rows, broken markup: bounded and quiet', () => {
    const wide = tablesFromHtml('<table><tr><td colspan=999999 rowspan=999999>x</td></tr><tr><td>y</table>')
    expect(wide[0]![0]).toHaveLength(100)
    expect(tablesFromHtml(`<table>${'<tr><td>a<td>b'.repeat(5000)}`)[0]).toHaveLength(500)
    expect(() => tablesFromHtml('x'.repeat(2_000_001))).toThrow('over 2 million characters')
    fc.assert(
      fc.property(
        fc.array(
          fc.constantFrom('<table>', '</table>', '<tr>', '<td rowspan=3>', '<th>', '</td>', 'x', '<script>', '</script>', '&amp;', '<!--'),
          { maxLength: 40 },
        ),
        (parts) => {
          for (const table of tablesFromHtml(parts.join(''))) for (const row of table) expect(row.length).toBeLessThanOrEqual(100)
        },
      ),
    )
  })
})

test('pasted as text, a cell in quotation marks keeps its line breaks', () =>
  expect(tablesFromText('\tPoor (1)\tGood (3)\nAim\t"no\naim"\tan "aim"\n')).toEqual([
    [
      ['', 'Poor (1)', 'Good (3)'],
      ['Aim', 'no\naim', 'an "aim"'],
    ],
  ]))
