/** Who is meant where nobody signed in by name: the one who has the machine. */
export const YOU = 'you';
