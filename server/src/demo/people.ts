/** The invented people of Marrowmere Ferries: name, role, and the projects they work in. */
export const people: readonly {
  readonly name: string
  readonly role: 'administrator' | 'member' | 'viewer'
  readonly projects: readonly string[]
}[] = [
  { name: 'Mara Thiel', role: 'administrator', projects: [] },
  { name: 'Tom Okafor', role: 'member', projects: ['YARD'] },
  { name: 'Ida Lund', role: 'viewer', projects: [] },
  ...[
    'Ilse Varga',
    'Priya Nandan',
    'Ana Brandt',
    'Jonas Feld',
    'Rosa Quintero',
    'Emil Starck',
    'Nadia Haddad',
    'Piet Vermolen',
    'Lena Ostrow',
    'Karim Bashir',
  ].map((name) => ({ name, role: 'member' as const, projects: ['YARD'] })),
  ...[
    'Greta Holm',
    'Otto Brenninger',
    'Sunniva Dahl',
    'Marek Zielony',
    'Bea Corvin',
    'Yusuf Demirel',
    'Clara Winding',
  ].map((name) => ({ name, role: 'member' as const, projects: ['PIER'] })),
  ...[
    'Hanna Reiss',
    'Luca Moretto',
    'Freya Lindqvar',
    'Samuel Adeyo',
    'Nils Karsten',
    'Vera Tomsik',
  ].map((name) => ({ name, role: 'member' as const, projects: ['CREW'] })),
  ...[
    'Mina Sato',
    'Felix Grunau',
    'Ravi Menon',
    'Julia Pereza',
    'Anton Beck',
    'Selma Aydin',
    'Kofi Mensah',
    'Dora Vinter',
  ].map((name) => ({ name, role: 'member' as const, projects: ['FARE'] })),
  ...[
    'Agnes Molnar',
    'Henrik Solberg',
    'Tessa Whitlow',
    'Boris Kamen',
    'Elif Koral',
    'Magnus Rehn',
  ].map((name) => ({ name, role: 'member' as const, projects: ['SAFE'] })),
]

export const emailOf = (name: string): string =>
  `${name.toLowerCase().replaceAll(' ', '.')}@marrowmere.example`
