/** What a buyer pays for sending: for the first item of a parcel, and for each further one. Minor units. */
export interface ToldShipping {
  readonly firstMinor: number;
  readonly furtherMinor: number;
}
