/** What a line of the activity is about. */
export const ACTIVITY_ABOUT = ['listing', 'product', 'prices', 'artwork', 'store', 'send', 'sale', 'money'] as const;
export type ActivityAbout = (typeof ACTIVITY_ABOUT)[number];
