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

= Power
#d.power.text
#if d.power.modes.len() > 0 [
  #grid_table((1.2fr, 1fr, 1fr, 1fr, 1fr),
    ..("mode", "on average", "power", "worst instant", "pack sags to").map(x => mute(x)),
    ..d.power.modes.map(m => (m.name, fig(m.average), fig(m.power), fig(m.peak), fig(m.low))).flatten())
  #block(breakable: false)[== The mission
  #image(d.power.mission, width: 100%)]
  #block(breakable: false)[== From the pack to the last load, in #d.power.tree_mode
  #image(d.power.tree, width: 100%)]
  #block(breakable: false)[== Where the energy goes
  #image(d.power.shares, width: 60%)]
]

#block(breakable: false)[
= Mass and money
#d.mass_text
#image(d.mass, width: 100%)
#if d.money.len() > 0 { for m in d.money [#mute[#m.origin] #fig(m.sum, weight: 600) #h(10pt)] }
]

= From something sensed to something done
#if d.chains.len() == 0 [No signal chain yet.]
#for c in d.chains [
  #block(breakable: false)[== #c.name: #c.text
  #image(c.svg, width: 100%)]
]

= Parts
#for lane in d.lanes [
  #block(breakable: false)[== #lane.name
  #grid_table((2.1fr, 0.5fr, 1.5fr, 0.8fr, 0.75fr, 2fr),
    ..("part", "count", "figures", "mass", "price", "figures from; origin").map(x => mute(x)),
    ..lane.rows.map(r => (r.name, fig(r.count), fig(r.gist), fig(r.mass), fig(r.price), text(8.5pt, r.source))).flatten())]
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
