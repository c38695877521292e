// A sheet to be printed: everything that is written on it comes as data, never as markup.
#let sheet = json(bytes(sys.inputs.at("sheet")))
#set page(paper: "a4", margin: (x: 18mm, top: 16mm, bottom: 18mm), footer: [
  #set text(8pt, fill: luma(40%))
  #sheet.foot #h(1fr) #context counter(page).display("1 / 1", both: true)
])
#set text(font: "Libertinus Serif", size: 10.5pt, lang: "en")
#set par(leading: 0.6em)
#set table(stroke: (x, y) => (bottom: if y == 0 { 0.8pt } else { 0.3pt + luma(70%) }), inset: (x: 5pt, y: 4pt))
#set document(title: sheet.title, date: none)

#text(20pt, sheet.title)
#if sheet.under != "" [ \ #text(fill: luma(35%), sheet.under) ]
#v(4mm)
#for part in sheet.parts [
  #block(breakable: part.rows.len() > 0, width: 100%, below: 6mm)[
    #if part.title != "" or part.right != "" [ #text(13pt, part.title) #h(1fr) #text(9pt, fill: luma(35%), part.right) ]
    #for line in part.lines [ \ #text(10pt, line) ]
    #if part.pictures.len() > 0 [
      #v(1mm)
      #for picture in part.pictures [#box(width: picture.width * 1%, inset: (right: 4mm, bottom: 2mm))[
        #if picture.caption != "" [#text(9pt, picture.caption) #v(-2mm)]
        #image(picture.svg, width: 100%)
      ]]
    ]
    #if part.rows.len() > 0 [
      #v(1mm)
      #table(
        columns: part.columns.map(share => share * 1fr),
        align: part.align.map(side => if side == "right" { right } else { left }),
        ..part.head.map(cell => text(9pt, fill: luma(35%), cell)),
        ..part.rows.flatten(),
      )
    ]
  ]
]
