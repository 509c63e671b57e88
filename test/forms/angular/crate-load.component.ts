import { CommonModule } from '@angular/common';
import { Component, output } from '@angular/core';
import { FormsModule } from '@angular/forms';

export class Crate {
    constructor(public fruit: string, public kilos: number, public mark: string) {}
}

@Component({
    selector: 'orchard-crate-load',
    standalone: true,
    imports: [CommonModule, FormsModule],
    templateUrl: './crate-load.component.html',
})
export class CrateLoadComponent {
    lorry = '';
    crates: Crate[] = [];
    loaded = output<{ lorry: string; weight: number; crates: Crate[] }>();
    private count = 0;

    byCrate(_: number, crate: Crate) {
        return crate;
    }

    newCrate() {
        this.count += 1;
        return new Crate('apple', 12, `#${this.count}`);
    }

    changed(crate: Crate) {
        // pears come in small crates
        if (crate.fruit === 'pear' && crate.kilos > 10) {
            crate.kilos = 10;
        }
    }

    remove(crate: Crate) {
        this.crates = this.crates.filter((one) => one !== crate);
    }

    clear() {
        this.crates = [];
        this.lorry = '';
    }

    weight() {
        let sum = 0;
        for (const { kilos } of this.crates) sum += kilos;
        return sum;
    }

    save() {
        this.loaded.emit({ lorry: this.lorry, weight: this.weight(), crates: this.crates });
    }
}
