// The same content as the HTML page, as a PDF. Data: data.json; pictures: SVG files beside it.
#let d = json("data.json")
#let c = d.colours
#let ink(role) = rgb(c.at(role))
#set document(title: d.name + ": " + d.title)
#set page(paper: "a4", margin: (x: 18mm, top: 16mm, bottom: 16mm), footer: context [
  #set text(8pt, fill: ink("mute"))
  #d.name · #d.title, #d.today #h(1fr) #counter(page).display("1 / 1", both: true)
])
#set text(font: d.words, size: d.size * 1pt, fill: ink("ink"), lang: "en", region: "GB")
#set par(leading: 0.55em)
#show heading.where(level: 1): it => block(above: 14pt, below: 6pt, width: 100%, stroke: (bottom: 0.5pt + ink("line")), inset: (bottom: 3pt), text(13pt, weight: 600, it.body))
#show heading.where(level: 2): it => block(above: 9pt, below: 4pt, text(10.5pt, weight: 600, it.body))
#let fig(body, role: "ink", weight: 500) = text(font: "Barlow", stretch: 87.5%, fill: ink(role), weight: weight, body)
#let mute(body) = text(fill: ink("mute"), body)
#let verdict(v) = fig(v, role: v + "_text", weight: 600)
#let grid_table(columns, ..cells) = table(columns: columns, stroke: (x, y) => (bottom: 0.4pt + ink("line")), inset: (x: 3pt, y: 3.2pt), align: horizon, ..cells)

#text(20pt, weight: 600)[#d.name] #h(6pt) #mute[#d.subtitle]
#v(-4pt)
#mute[#d.title, #d.today] · *#d.verdict*

#if d.sections.len() > 3 [
  #v(4pt)
  #context {
    let heads = query(heading.where(level: 1))
    let half = calc.ceil(heads.len() / 2)
    let entry(h) = link(h.location(), [#h.body #box(width: 1fr, repeat(text(fill: ink("line"))[.])) #fig(str(counter(page).at(h.location()).first()))])
    let part(hs) = stack(spacing: 4.5pt, ..hs.map(entry))
    text(8.5pt, grid(columns: (1fr, 1fr), column-gutter: 18pt, part(heads.slice(0, half)), part(heads.slice(half))))
  }
]

#if d.limits.len() > 0 [
= Brief and verdicts
#grid_table((1.25fr, 0.9fr, 1.1fr, 0.75fr, 0.85fr, 1.15fr, 0.65fr, 1.25fr),
  ..("wish", "wanted", "wire", "computed", "measured", "shown by runs", "", "proved by").map(x => text(8pt, mute(x))),
  ..d.limits.map(x => (
    [#x.name \ #text(7.5pt, mute[#x.measure])], fig(x.limit), image(x.wire, width: 100%), align(right, fig(if x.computed == "" { "–" } else { x.computed }, weight: 600)),
    text(8pt, if x.measured == "" { "–" } else { x.measured }), text(8pt, if x.shown == "" { "–" } else { x.shown }), verdict(x.verdict),
    text(8pt)[#x.proof #if x.missing != "" [\ #mute[lacks: #x.missing]]],
  )).flatten())
]

#if d.findings != none [
= What needs attention
#if d.findings.len() == 0 [Nothing breaks, is tight or is unknown.]
#for f in d.findings [
  #block(width: 100%, fill: ink("soft"), stroke: (left: 2.5pt + ink(f.verdict)), inset: (x: 7pt, y: 5pt), below: 5pt, breakable: false)[
    *#f.title* #verdict(f.verdict) \ #f.what #mute[#f.why]
    #if f.remedies.len() > 0 [\ Could help: #f.remedies.join("; ").]
  ]
]
#if d.also != "" [#text(8.5pt)[*Also tight.* #mute[#d.also.]]]
]
#if d.left_out != "" [#text(8.5pt, mute(d.left_out))]

#let show_block(b) = {
  if b.svg != "" { block(width: 100%, breakable: false)[#image(b.svg, width: 100%) #v(-6pt) #text(8pt, mute[Figure #b.number. #b.caption])] }
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

#if d.standards.len() > 0 [
  = Standards and rules that the team works to
  #for x in d.standards [- #x]
]

= What was not checked
#for x in d.not_checked [- #x]

= Cautions
#if d.cautions.len() == 0 [#d.rules]
#for x in d.cautions [
  #block(width: 100%, stroke: 0.6pt + ink("tight"), radius: 2pt, inset: 6pt, below: 5pt, breakable: false)[*#x.title.* #x.text #if x.signed != "" [#mute[Read by #x.signed.]]]
]
