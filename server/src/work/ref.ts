/** The ref that the path of a request names. */
export const ref = ({
  params,
}: {
  readonly params: { readonly code: string; readonly number: string }
}): string => `${params.code}/${params.number}`
