import { Body, Controller, Get, HttpCode, Post, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { CountedFolderDto, SetUpDto } from './dto/setUp.dto.js';
import { SetUpService } from './setUp.service.js';

@ApiTags('set-up')
@Controller('set-up')
export class SetUpController {
  constructor(private readonly setUp: SetUpService) {}

  @Get()
  view() {
    return this.setUp.view();
  }

  @Get('count')
  count(@Query() { path }: CountedFolderDto) {
    return this.setUp.count(path);
  }

  @Post()
  @HttpCode(200)
  start(@Body() body: SetUpDto) {
    return this.setUp.setUp(body);
  }
}
