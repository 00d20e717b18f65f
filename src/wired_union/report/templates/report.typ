// The same content as the HTML page, as a PDF. Data: data.json; pictures: SVG files beside it.
#let d = json("data.json")
#let c = d.colours
#let ink(role) = rgb(c.at(role))
#set document(title: d.name + ": report")
#set page(paper: "a4", margin: (x: 18mm, top: 16mm, bottom: 16mm), footer: context [
  #set text(8pt, fill: ink("mute"))
  #d.name · report of #d.today #h(1fr) #counter(page).display("1 / 1", both: true)
])
#set text(font: d.words, size: 9.5pt, fill: ink("ink"), lang: "en", region: "GB")
#set par(leading: 0.55em)
#show heading.where(level: 1): it => block(above: 14pt, below: 6pt, width: 100%, stroke: (bottom: 0.5pt + ink("line")), inset: (bottom: 3pt), text(13pt, weight: 600, it.body))
#show heading.where(level: 2): it => block(above: 9pt, below: 4pt, text(10.5pt, weight: 600, it.body))
#let fig(body, role: "ink", weight: 500) = text(font: "Barlow", stretch: 87.5%, fill: ink(role), weight: weight, body)
#let mute(body) = text(fill: ink("mute"), body)
#let verdict(v) = fig(v, role: v + "_text", weight: 600)
#let grid_table(columns, ..cells) = table(columns: columns, stroke: (x, y) => (bottom: 0.4pt + ink("line")), inset: (x: 3pt, y: 3.2pt), align: horizon, ..cells)

#text(20pt, weight: 600)[#d.name] #h(6pt) #mute[#d.subtitle]
#v(-4pt)
#mute[Report of #d.today] · *#d.verdict*

= Brief and verdicts
#grid_table((1.35fr, 0.95fr, 1.7fr, 0.75fr, 0.65fr, 1.4fr),
  ..d.limits.map(x => (
    [#x.name \ #text(8pt, mute[#x.measure])], fig(x.limit), image(x.wire, width: 100%), align(right, fig(x.value, weight: 600)), verdict(x.verdict),
    text(8.5pt)[#x.proof #if x.missing != "" [\ #mute[lacks: #x.missing]]],
  )).flatten())

= What needs attention
#if d.findings.len() == 0 [Nothing breaks, is tight or is unknown.]
#for f in d.findings [
  #block(width: 100%, fill: ink("soft"), stroke: (left: 2.5pt + ink(f.verdict)), inset: (x: 7pt, y: 5pt), below: 5pt, breakable: false)[
    *#f.title* #verdict(f.verdict) \ #f.what #mute[#f.why]
    #if f.remedies.len() > 0 [\ Could help: #f.remedies.join("; ").]
  ]
]
#if d.also != "" [#text(8.5pt)[*Also tight.* #mute[#d.also.]]]

#let show_block(b) = {
  if b.svg != "" { image(b.svg, width: 100%) }
  else if b.head.len() > 0 {
    grid_table(b.widths.map(w => w * 1fr),
      ..b.head.map(x => mute(x)),
      ..b.rows.map(r => r.map(c => if c.figure { fig(c.text) } else { text(8.5pt, c.text) })).flatten())
  }
  else if b.tone == "heading" [== #b.text]
  else if b.tone == "note" { text(8.5pt, mute(b.text)) }
  else { b.text }
}
#for s in d.sections [
  = #s.title
  #for (n, b) in s.blocks.enumerate() {
    // a heading stays with what follows it
    if n > 0 and s.blocks.at(n - 1).tone == "heading" { continue }
    if b.tone == "heading" and n + 1 < s.blocks.len() {
      block(breakable: b.rows.len() > 12, width: 100%)[#show_block(b) #show_block(s.blocks.at(n + 1))]
    } else { block(width: 100%, show_block(b)) }
  }
]

#if d.notebook.len() > 0 [
  = Why things are as they are
  #for e in d.notebook [- #mute[#e.when] #e.text — #e.why]
]

= What was not checked
#for x in d.not_checked [- #x]

= Cautions
#if d.cautions.len() == 0 [#d.rules]
#for x in d.cautions [
  #block(width: 100%, stroke: 0.6pt + ink("tight"), radius: 2pt, inset: 6pt, below: 5pt, breakable: false)[*#x.title.* #x.text]
]
