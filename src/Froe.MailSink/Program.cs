using System.Net;
using Froe.MailSink;

// A stand-in for a mail server: takes mail on loopback, keeps it in a folder, shows it on a page.
var builder = WebApplication.CreateBuilder(args);
builder.Logging.SetMinimumLevel(LogLevel.Warning);
var folder = Directory.CreateDirectory(builder.Configuration["folder"] ?? "mail");
var smtpPort = builder.Configuration.GetValue("smtp", 2525);
builder.Services.AddSingleton(new MailFolder(folder.FullName));
builder.Services.AddHostedService(s => new SmtpListener(IPAddress.Loopback, smtpPort, s.GetRequiredService<MailFolder>()));
var app = builder.Build();
app.MapGet("/", (MailFolder mails) => TypedResults.Text(MailPage.Of(mails.Newest(200)), "text/html; charset=utf-8"));
app.MapGet("/mails", (MailFolder mails) => mails.Newest(200));
app.MapDelete("/mails", (MailFolder mails) => mails.Empty());
await app.RunAsync();
