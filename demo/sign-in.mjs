/** Who signs in to the demo. */
export const DEMO = { email: 'demo@brackwater.example', password: 'ebb-and-flood' };
