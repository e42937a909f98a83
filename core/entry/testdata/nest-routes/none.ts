import { Get } from './mine'
export class X { @Get('a') b() {} }
