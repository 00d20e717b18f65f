// The coming week on one page: who does what, what comes, what must go out. Data: data.json.
#let d = json("data.json")
#let ink(role) = rgb(d.colours.at(role))
#set document(title: d.name + ": week list")
#set page(paper: "a4", margin: 15mm)
#set text(font: d.words, size: 9.5pt, fill: ink("ink"), lang: "en", region: "GB")
#set par(leading: 0.5em)
#let mute(body) = text(fill: ink("mute"), body)
#let fig(body, role: "ink", weight: 500) = text(font: "Barlow", stretch: 87.5%, fill: ink(role), weight: weight, body)

// What does not fit on one page is set smaller until it does.
#let all = [
  #text(17pt, weight: 600)[#d.name] #h(6pt) #mute[week list, #d.today to #d.last]
  #v(2pt)
  #for g in d.groups [
    #block(above: 9pt, below: 3pt, width: 100%, stroke: (bottom: 0.5pt + ink("line")), inset: (bottom: 2pt), text(11pt, weight: 600, g.who))
    #table(columns: (12pt, 1fr, 92pt, 110pt), stroke: none, inset: (x: 2pt, y: 2.4pt), align: horizon,
      ..g.tasks.map(t => (box(width: 8pt, height: 8pt, stroke: 0.7pt + ink("ink")), t.name,
        fig([#t.at("from")#if t.to != t.at("from") [ to #t.to]]),
        fig(t.hand, role: if t.late { "breaks_text" } else if t.critical { "tight_text" } else { "mute" }))).flatten())
  ]
  #if d.orders.len() > 0 [
    #block(above: 10pt, below: 3pt, text(11pt, weight: 600)[To order])
    #for o in d.orders [#box(width: 8pt, height: 8pt, stroke: 0.7pt + ink("ink")) #h(4pt) #o.name #h(4pt) #mute[by #o.by] \ ]
  ]
  #if d.milestones.len() > 0 [
    #block(above: 10pt, below: 3pt, text(11pt, weight: 600)[Due soon])
    #for m in d.milestones [#fig(m.on, weight: 600) #h(4pt) #m.name #if m.shows != "" [#mute[: #m.shows]] \ ]
  ]
]
#layout(size => {
  let found = measure(block(width: size.width, all)).height
  let share = calc.min(1, size.height / found)
  if share >= 1 { all } else { scale(share * 100%, origin: top + left, reflow: true, block(width: size.width, all)) }
})
