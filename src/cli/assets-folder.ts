/** The variable of the environment that names the folder of `--assets`; threads inherit it. */
export const ASSETS_FOLDER = 'CYCLON_ASSETS'
