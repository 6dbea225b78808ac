import type { Plugin } from 'vite'

export function offline(): Plugin
