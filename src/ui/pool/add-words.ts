/** What stands in the field of conditions while nothing is typed. */
export const PLACEHOLDER = 'A condition, or a line: free org over 10 years, 20+ referring domains, under 50 EUR';
