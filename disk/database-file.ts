/** The shop's database in its data folder. */
export const DATABASE = 'lantern.sqlite'
