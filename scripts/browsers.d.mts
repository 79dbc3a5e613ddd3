export const CHROMIUM: string
export const HEADLESS_SHELL: string
export const SWITCHES: string[]
