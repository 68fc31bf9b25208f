/** Characters a text of ours may have: ten parts of the longer alphabet. */
export const longestText = 670;
