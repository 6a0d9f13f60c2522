/** Invented people; none is meant to be anyone. */
export const SECTIONS = ['Alidade', 'Clinometer', 'Dioptra', 'Groma', 'Heliotrope', 'Octant', 'Sextant', 'Theodolite']

export const LEAD = 'Ines Valdry'
export const EXTERNAL = 'Tamsin Oyelaran-Holt'

/** The first eight teach a section each; the others only read. */
/** Runs the installation, and has no part in a course. */
export const ADMIN = 'Orsolya Tamm'
export const MARKERS = [
  'Tadesse Abara',
  'Lea Ostrand',
  'Nomvula Brandt',
  'Milo Quill',
  'Sabine Imre',
  'Rune Daal',
  'Petra Okafor-Lind',
  'Joss Sorley',
  'Kamala Verrin',
  'Anselm Duvray',
  'Yuto Harrow',
]

export const GIVEN = (
  'Adaeze Aino Alasdair Amara Anouk Ansel Aylin Bahar Bartek Beatriz Bram Calla Chidi Dalia Darko Deniz Eilidh Elif Emeka Esra Farid Fenna Fleur Gael Gita Goran Hana ' +
  'Haruki Ilse Imani Inigo Isolde Jaya Jomar Jun Kaito Kamil Katya Kerem Kofi Lale Leif Linh Luca Maelis Malik Marisol Mateus Meera Mirela Nadia Nils Noor Odalys Omar ' +
  'Oona Padraig Paloma Priya Quentin Rafi Ravi Roshan Runa Saoirse Selma Soren Stellan Suri Tariq Teo Thandi Tomasz Ulla Veda Viggo Wanjiru Xiomara Yara Yusuf Zora'
).split(' ')

export const FAMILY = (
  'Abebe Achterberg Adomako Aldana Amsel Arkwell Babatundi Balint Barrow Belisar Brannick Calder Castellane Chandran Corvo Dahlby Demirel Dorrance Eberle Ekström Esterhaz ' +
  'Falk Farrokh Fenwick Ferrante Gadsby Galvane Ghorbani Halloran Haverkamp Hinemoa Holm Iheanacho Ivarsen Jaramillo Jelinek Kahananui Kalloor Keswick Kowalczyk Kuroda ' +
  'Lachmann Lindqvar Lorimer Macready Mbatha Merrow Moravec Mukherji Naidu Nakamori Nwosu Oduya Okoro Ormsby Osei-Lind Pallister Pereira-Voss Quenby Ravensworth Rinaldo ' +
  'Sandoval Sayed Sefton Sorrel Szabo Takoda Tembo Thorsby Uchida Ulander Vanterpool Varga Vikander Wexcombe Whitlow Xu-Marin Yilmaz Zamora Zielinski'
).split(' ')
