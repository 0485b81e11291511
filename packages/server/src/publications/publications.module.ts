import { Module } from '@nestjs/common';
import { PublicationsRepository } from './publications.repository.js';

@Module({ providers: [PublicationsRepository], exports: [PublicationsRepository] })
export class PublicationsModule {}
