import { Controller, Delete, Get, HttpCode, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { ExampleService } from './example.service.js';

@ApiTags('example')
@Controller('example')
export class ExampleController {
  constructor(private readonly example: ExampleService) {}

  @Get()
  view() {
    return this.example.view();
  }

  /** Answers when it has begun. */
  @Post()
  @HttpCode(202)
  begin() {
    this.example.begin();
  }

  @Post('address')
  @HttpCode(200)
  address() {
    return this.example.address();
  }

  @Delete()
  @HttpCode(204)
  leave() {
    return this.example.leave();
  }
}
