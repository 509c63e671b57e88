import { Component, EventEmitter, inject, Injectable, Output, ViewChild, type OnInit } from '@angular/core';
import { FormsModule, NgForm } from '@angular/forms';
import { Observable, of } from 'rxjs';

export interface Post {
  id: number;
  place: string;
  lowest: number | null;
  lamp: 'off' | 'on' | 'broken';
}

export interface Watch {
  night: string;
  posts: Post[];
}

@Injectable({ providedIn: 'root' })
export class WatchStore {
  last(): Observable<Watch> {
    return of({
      night: '2026-04-18',
      posts: [
        { id: 1, place: 'Gate', lowest: -1, lamp: 'on' },
        { id: 2, place: 'Pond', lowest: null, lamp: 'off' },
      ],
    });
  }
}

@Component({
  selector: 'orchard-frost-posts',
  imports: [FormsModule],
  template: `
    <form #watchForm="ngForm" (ngSubmit)="save()">
      <input type="date" aria-label="Night" name="night" [(ngModel)]="watch.night" required>
      @for (post of watch.posts; track post.id; let last = $last) {
        <section [class.cold]="(post.lowest ?? 0) < 0">
          <h3>{{ post.id }}. {{ post.place || 'new post' }}</h3>
          <input [attr.aria-label]="'Place ' + $index" [name]="'place-' + post.id" [(ngModel)]="watch.posts[$index].place" required>
          <input type="number" aria-label="Lowest" [name]="'lowest-' + post.id" [(ngModel)]="watch.posts[$index].lowest" step="0.5">
          <label><input type="radio" [name]="'lamp-' + post.id" value="off" [(ngModel)]="post.lamp"> off</label>
          <label><input type="radio" [name]="'lamp-' + post.id" value="on" [(ngModel)]="post.lamp"> on</label>
          @if (last) { <button type="button" (click)="watch.posts.pop()">Drop the last</button> }
        </section>
      }
      <p>{{ watch.posts.length }} posts, {{ coldest }} at the lowest, first {{ watch.posts[0]?.place }}</p>
      <button type="button" (click)="another()">Another post</button>
      <button type="button" (click)="reload()">Reload</button>
      <button type="submit" [disabled]="watchForm.invalid">Save</button>
    </form>
  `,
})
export class FrostPostsComponent implements OnInit {
  @ViewChild('watchForm') watchForm!: NgForm;
  @Output() saved = new EventEmitter<Watch>();

  // one night
  watch: Watch = { night: '', posts: [] };

  private store = inject(WatchStore);

  ngOnInit() {
    this.reload();
  }

  reload() {
    this.store.last().subscribe((watch) => {
      this.watch = watch;
    });
  }

  get coldest() {
    const known = this.watch.posts.map((post) => post.lowest).filter((one) => one !== null);
    return known.length ? Math.min(...known) : 'nothing';
  }

  another() {
    const id = Math.max(0, ...this.watch.posts.map(({ id }) => id)) + 1;
    this.watch.posts = [...this.watch.posts, { id, place: '', lowest: null, lamp: 'off' }];
  }

  save() {
    if (this.watchForm.invalid) return;
    this.saved.emit(this.watch);
  }
}
