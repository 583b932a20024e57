/** What is used of licences.mjs from TypeScript. */
export interface ShippedPackage {
  name: string
  version: string
  licence: string
  texts: string[]
}
export function notePackages(
  name: string,
  then?: () => void,
): { name: string; generateBundle(options: unknown, bundle: Record<string, object>): void }
export function packagesOf(builds: readonly string[]): ShippedPackage[]
export function noticeOf(packages: readonly ShippedPackage[]): string
export function writeNotice(builds: readonly string[], path: string): void
