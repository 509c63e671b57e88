/** What only an approach itself says, so that it goes when another one takes over. */
export interface ApproachWords {
  names: ReadonlySet<string>;
  texts: ReadonlySet<string>;
  operators: ReadonlySet<string>;
  /** Casts of what an approach hands over: elements and events of the page. */
  casts: RegExp;
  /** Modules whose imports may go. */
  imports: RegExp;
  /** Attributes that stand in a template no more once it takes over: it writes them itself, by rules that are compared. */
  stated: ReadonlySet<string>;
}

/** Approaches that keep each value by itself. */
export const keepApart: ReadonlySet<string> = new Set(['field-state', 'dom-values']);

const nothing: ReadonlySet<string> = new Set();

/** How a handler takes a value out of what it is given. */
const events = 'target currentTarget value checked type name';
const react =
  'React useState useReducer useCallback Dispatch SetStateAction ChangeEvent FormEvent Reducer as undefined';
/** What the hooks that this tool writes call their members. */
const hooks =
  'values setValue setValues resetValues errors setErrors touched setTouched submitting setSubmitting submit';
/** What the hooks of npm packages call theirs. */
const packages =
  'values setFieldValue setValues resetForm handleSubmit submitForm initialValues onSubmit useFormik defaultValues setValue getValues reset watch useForm useStore store setFieldValue start preventDefault';
/** What a package says of a form that is said in other words without it. */
const formik =
  'Formik FieldArray FieldArrayRenderProps push remove render FormikHelpers FormikErrors FormikTouched FormikProps FormikValues FieldProps Field FastField Form ErrorMessage useFormik getFieldProps handleChange handleBlur handleReset setFieldTouched setFieldError setStatus setSubmitting validate validateOnChange validateOnBlur validateOnMount initialStatus name type as component div input select textarea field meta error touched errors status isSubmitting setErrors helpers';
const hookForm =
  'register SubmitHandler Control Controller control render field fieldState name rules required value message min max minLength maxLength pattern validate valueAsNumber deps resolver formState touchedFields errors error invalid isDirty isValid isSubmitting isSubmitted submitCount mode reValidateMode shouldFocusError shouldValidate shouldDirty shouldTouch setError clearErrors trigger useWatch useFieldArray useController useFormState useFormContext setFocus resetField fields id append prepend insert remove swap move update replace shouldFocus type root server onBlur ref true';
const tanstack =
  'form Field Subscribe selector state store meta errors isTouched isValid isDirty canSubmit isSubmitting handleChange handleBlur handleSubmit name validators listeners onChange onBlur onChangeListenTo onSubmitInvalid value formApi fieldApi field getFieldValue setFieldValue error join map length key undefined useStore children';
const page =
  'FormData valueAsNumber get getAll has elements namedItem form reset current ref useRef defaultValue defaultChecked Object fromEntries entries String new null';
const classes =
  'Component PureComponent constructor super this state setState props render bind componentDidMount componentDidUpdate componentWillUnmount forceUpdate static defaultProps createRef private public protected readonly get';
const angular =
  'FormControl FormGroup FormArray FormBuilder NonNullableFormBuilder UntypedFormBuilder Validators control group array controls get value setValue patchValue getRawValue nonNullable inject ReactiveFormsModule FormsModule NgForm NgModel ngModel ngModelGroup ngNativeValidate ngForm ngSubmit name formGroup formControlName formControl formGroupName formArrayName resetForm form ViewChild viewChild validators asyncValidators updateOn constructor new private public protected readonly static $event null implements OnInit ngOnInit valueChanges subscribe enable disable reset';

/** What forms over a signal call theirs. */
const signals = 'signal FormField formField FieldTree submit path update set markAsTouched valueOf disabled';

/** What a schema of a form over a signal says, which is said with values elsewhere. */
const schemas =
  'form schema validate required email min max minLength maxLength pattern apply applyEach applyWhen hidden message when value valueOf FieldContext Schema SchemaFn SchemaPath SchemaPathTree fieldTree formRoot FormRoot submission action customError';

const spread = ['...', '?.', '===', '?', ':'];
const domCasts = /^(?:HTML\w*|EventTarget|Element|string|File|FormData|React\.\w+|ChangeEvent.*)\b|^!$/;
const controlCasts = /^(?:Form(?:Control|Group|Array)|AbstractControl|NgForm|NgModel)\b|^!$/;
const anyImport = /^(?:react|preact\/compat|@angular\/(?:forms|core))$/;

function words(
  names: string,
  {
    texts = '',
    imports = anyImport,
    operators = '',
    casts = domCasts,
    stated = '',
  }: { texts?: string; imports?: RegExp; operators?: string; casts?: RegExp; stated?: string } = {},
): ApproachWords {
  return {
    names: new Set(names.split(' ')),
    texts: texts ? new Set(texts.split(' ')) : nothing,
    operators: new Set([...spread, ...operators.split(' ')]),
    casts,
    imports,
    stated: stated ? new Set(stated.split(' ')) : nothing,
  };
}

const byApproach: Readonly<Record<string, ApproachWords>> = {
  'field-state': words(`${react} ${events}`, { texts: 'checkbox' }),
  'object-state': words(`${react} ${events}`, { texts: 'checkbox' }),
  reducer: words(`${react} ${events} dispatch payload Object is`, { texts: 'checkbox' }),
  'class-state': words(`${react} ${events} ${classes}`, {
    texts: 'checkbox',
    operators: '!==',
    // a class has to claim that a part of its state is one
    casts: new RegExp(`${domCasts.source}|^Pick<`),
  }),
  'dom-values': words(`${react} ${events} ${page}`, { texts: 'on checkbox', operators: '?? !' }),
  'own-hook': words(`${react} ${events} ${hooks}`, { texts: 'checkbox', imports: /./ }),
  'declared-schema': words(`${react} ${events} ${hooks}`, { texts: 'checkbox', imports: /./ }),
  formik: words(`${react} ${events} ${packages} ${formik}`, {
    texts: 'checkbox select textarea input',
    imports: /./,
    casts: new RegExp(`${domCasts.source}|Formik\\w+<`),
  }),
  'react-hook-form': words(`${react} ${events} ${packages} ${hookForm}`, {
    texts: 'checkbox onBlur onChange onSubmit onTouched all server root root.server',
    operators: '||',
    imports: /./,
  }),
  'tanstack-form': words(`${react} ${events} ${packages} ${tanstack}`, {
    texts: 'checkbox',
    operators: '!',
    imports: /./,
  }),
  'markup-only': words(`${events} ${angular} selected`, { casts: controlCasts }),
  'template-one-way': words(`${events} ${angular} ${signals}`, { texts: 'blur submit', casts: controlCasts }),
  'template-driven': words(`${events} ${angular} ${signals}`, { texts: 'blur submit', casts: controlCasts }),
  'signal-model': words(`${events} ${angular} ${signals} ${schemas}`, {
    texts: 'blur submit',
    casts: controlCasts,
    stated: 'maxlength minlength ngValue',
  }),
  'model-driven': words(`${events} ${angular}`, { texts: 'blur submit', casts: controlCasts }),
};

/** The words of an approach; an approach that is not known has none. */
export function approachWords(approach: string): ApproachWords {
  return byApproach[approach] ?? words('');
}
