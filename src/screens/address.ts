/** The parameters of a page's address as Next.js hands them over, as what the API reads. */
export function addressParams(params: { readonly [name: string]: string | string[] | undefined }): URLSearchParams {
  const read = new URLSearchParams();
  for (const [name, value] of Object.entries(params))
    for (const one of Array.isArray(value) ? value : value === undefined ? [] : [value]) read.append(name, one);
  return read;
}
