/** What the band of a probability plot promises: among hundreds of points some lie outside by chance. */
export const BAND = "band: 95 % for each point by itself";
