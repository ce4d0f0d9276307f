// The booklet on paper. It lays out what booklet.json holds, block by block, and has no words of its own but
// the page numbers.
#let book = json("booklet.json")
#let ink = rgb("#1e2a31")
#let quiet = if book.colour { rgb("#5d6469") } else { rgb("#444444") }
#let accent = if book.colour { rgb("#17555c") } else { rgb("#000000") }
#let size = if book.large { 15pt } else { 10pt }
#let serif = ("Fraunces", "Libertinus Serif")

#set document(title: book.title)
#set page(
  paper: if book.paper == "letter" { "us-letter" } else { "a4" },
  margin: (x: 16mm, top: 20mm, bottom: 18mm),
  header: context if counter(page).get().first() > 1 [
    #set text(0.85 * size, fill: quiet)
    #book.title #h(1fr) #book.subtitle
  ],
  footer: context [
    #set text(0.85 * size, fill: quiet)
    #h(1fr) #counter(page).display("1 / 1", both: true)
  ],
)
#set text(font: ("Atkinson Hyperlegible Next", "Libertinus Serif"), size: size, fill: ink, lang: "en", hyphenate: false)
#set par(leading: 0.58em, spacing: 0.75em, justify: false)
#show heading: set text(font: serif, weight: 600, fill: accent)
#show heading.where(level: 1): set text(1.7 * size)
#show heading.where(level: 2): set text(1.15 * size)
#show heading.where(level: 1): set block(above: 1.5em, below: 0.8em)
#show heading.where(level: 2): set block(above: 1.2em, below: 0.6em)

#let box-number(n) = box(
  stroke: 0.5pt + quiet, inset: (x: 2pt, y: 1.6pt), outset: (y: 0.4pt), radius: 1pt, text(0.85 * size, str(n)),
)
#let noted(words) = block(
  width: 100%, inset: (left: 8pt, y: 3pt), stroke: (left: 1.5pt + quiet), text(0.92 * size, words),
)
#let numbers(list) = list.map(box-number).join([ #h(1.5pt, weak: true)])

#let blocks = (
  paragraph: b => block(b.lines.join(linebreak())),
  note: b => noted(b.text),
  subheading: b => heading(level: 2)[#b.text #if b.detail != "" [#text(weight: 400, fill: quiet, size: size)[#b.detail]]],
  table: b => block(above: 0.9em, below: 1em, {
    let bare = b.head.all(h => h == "")
    let heads = if bare { () } else { (table.header(..b.head.map(h => text(0.85 * size, fill: quiet, h))),) }
    table(
      columns: if bare { (auto, 1fr) } else { b.head.len() }, align: left + top, inset: (x: 0pt, y: 3pt), column-gutter: 12pt,
      stroke: (_, y) => (bottom: 0.4pt + quiet.lighten(50%)),
      ..heads, ..b.rows.flatten(),
    )
  }),
  calendar: b => block(breakable: true)[#strong(b.what): #numbers(b.numbers)],
  rows: b => {
    for row in b.rows {
      block(breakable: true, above: 0.62em, below: 0.62em, inset: (left: 0pt))[
        #strong(row.what) #numbers(row.numbers)#if row.side != "" [ #text(fill: quiet)[(#row.side)]]: #row.text.#if row.count != "" [ #text(fill: quiet)[(#row.count)]]
      ]
    }
    if b.again != "" { block(strong(b.again)) }
  },
  key: b => for term in b.terms {
    block(breakable: false, above: 0.8em, grid(
      columns: (27mm, 1fr), column-gutter: 4mm, align: (right + horizon, left + horizon),
      image(term.symbol, width: calc.min(27, term.width) * 1mm),
      [#strong(term.name)#if term.other != "" [ #text(fill: quiet)[also #term.other]] \ #term.text],
    ))
  },
  picture: b => block(breakable: false, width: 100%, above: 0.8em, below: 1em)[
    #layout(room => {
      let wide = room.width * b.across
      let tall = calc.min(wide * b.tall, 150mm)
      let wide = tall / b.tall
      box(stack(dir: ltr, ..b.strips.map(s => image(s.file, width: wide * s.share, height: tall, fit: "stretch"))))
    })
    #if b.caption != "" { text(0.9 * size, fill: quiet, b.caption) }
  ],
  chart: b => block(breakable: false, above: 1em)[
    #text(0.9 * size, strong(b.caption)) \
    #image(b.file, width: b.width * 1mm, height: b.height * 1mm)
  ],
)

#block(below: if book.subtitle == "" { 1.6em } else { 0.8em }, text(2.9 * size, font: serif, weight: 600, fill: accent, book.title))
#if book.subtitle != "" { block(below: 1.2em, text(1.2 * size, fill: quiet, book.subtitle)) }
#for chapter in book.chapters {
  if chapter.fresh { pagebreak(weak: true) }
  if chapter.title != "" { heading(level: 1, chapter.title) }
  let at = 0
  while at < chapter.blocks.len() {
    let b = chapter.blocks.at(at)
    let show-block(b) = (blocks.at(b.kind))(b)
    if b.at("beside", default: false) and not book.large {
      block(breakable: false, width: 100%, grid(
        columns: (b.across * 100%, 1fr), column-gutter: 5mm,
        show-block(b + (across: 1.0)), { set text(0.88 * size); show-block(chapter.blocks.at(at + 1)) },
      ))
      at += 2
    } else {
      show-block(b)
      at += 1
    }
  }
}
