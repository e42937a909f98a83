import { Controller, Get, Post } from '@nestjs/common'
@Controller('stations')
export class Stations {
  @Get()
  all() {}
  @Post(':id/readings')
  add() {}
}
