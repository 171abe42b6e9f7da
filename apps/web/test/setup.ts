// Services are tested outside the application's build, which would have compiled what Angular's packages leave open.
import '@angular/compiler';
