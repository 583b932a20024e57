/**
 * The picture library looks for a global of this name and makes one without declaring it, which modules do not allow.
 * Imported before the library.
 */
;(globalThis as { Module?: object }).Module ??= {}
