import type { Express } from 'express'

export declare function application(client: string): Express
